/** To so many digits after the point: what is said and stored is no more exact than it is known. */
export const rounded = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;
