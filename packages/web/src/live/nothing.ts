/** For failures that another part of the screen already shows, such as a server that is away. */
export const nothing = (): void => undefined;
