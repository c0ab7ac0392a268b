export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What a choice costs and what it spares, against the best one. */
export const costsAndGains = (more: readonly string[], less: readonly string[]): string =>
  [more.length ? `Costs more: ${more.join(', ')}.` : '', less.length ? `Spares: ${less.join(', ')}.` : ''].filter(Boolean).join(' ');
