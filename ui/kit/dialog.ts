/** How dialogs look, and where the focus goes when they close. */
export const OVERLAY = 'fixed inset-0 z-40 bg-ink/30';
export const CONTENT =
  'fixed top-24 left-1/2 z-50 max-h-[80vh] w-[min(46rem,92vw)] -translate-x-1/2 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl';
