/** No count of pixels that a wall or a desktop has. */
export const notPixels = (value: number): boolean => !Number.isInteger(value) || value < 0 || value > 100_000;
