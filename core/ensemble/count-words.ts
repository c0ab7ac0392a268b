const WORDS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

/** A small number as a word. @example countedWord(6) === 'six' */
export const countedWord = (count: number): string => WORDS[count] ?? String(count);
