export const browserPath: string;
