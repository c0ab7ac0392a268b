/** How the shelf can be sorted and grouped: what address, page and database agree on. */
export const SHELF_ORDERS = ['newest', 'marked', 'title', 'composer'] as const;
export type ShelfOrder = (typeof SHELF_ORDERS)[number];

export const SHELF_GROUPS = ['none', 'composer', 'instrument', 'marked'] as const;
export type ShelfGroup = (typeof SHELF_GROUPS)[number];

export interface ShelfArrangement {
  order: ShelfOrder;
  group: ShelfGroup;
}

/** What of it is said, in the address or in what the browser remembers ("title.composer"); the rest is as usual. */
export function arrangementFrom(order: string | undefined, group: string | undefined, remembered = ''): ShelfArrangement {
  const [kept, keptGroup] = remembered.split('.');
  const one = <T extends string>(known: readonly T[], ...said: Array<string | undefined>): T =>
    said.find((each): each is T => known.includes(each as T)) ?? known[0]!;
  return { order: one(SHELF_ORDERS, order, kept), group: one(SHELF_GROUPS, group, keptGroup) };
}
