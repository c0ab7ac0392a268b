/** What the page of the studio is about, one at a time. */
export const STUDIO_TABS = ['people', 'links', 'bin', 'everything', 'done'] as const;
export type StudioTab = (typeof STUDIO_TABS)[number];

export const TAB_NAMES: Readonly<Record<StudioTab, string>> = {
  people: 'People and browsers',
  links: 'Players’ links',
  bin: 'Bin',
  everything: 'Everything as a file',
  done: 'What was done',
};
