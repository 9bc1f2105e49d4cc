/** IPv4 addresses as numbers and as people write them. */
export const dotted = (ip: number): string => [24, 16, 8, 0].map((shift) => (ip >>> shift) & 255).join('.');
export const undotted = (ip: string): number => ip.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
