/** Note values and steps as this device's reader calls them. */
import { inTerms, TERMS, type Terms } from '@/core/util/terms';
import { keptHere, useKept } from './kept';

export const terms = keptHere<Terms>('omaggio.terms', 'american', (stored) => TERMS.find((each) => each === stored) ?? 'american');

/** Puts a sentence of ours into the reader's terms. */
export function useTerms(): (text: string) => string {
  const chosen = useKept(terms);
  return (text) => inTerms(text, chosen);
}

/** A sentence of ours in the reader's terms. */
export function Said({ children }: { children: string }) {
  return useTerms()(children);
}
