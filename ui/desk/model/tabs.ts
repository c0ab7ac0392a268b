/** Tabs of the right panel, in order. */
export const PANEL_TABS = ['choices', 'findings', 'notes', 'reading', 'others'] as const;
export type PanelTab = (typeof PANEL_TABS)[number];
