/** For lists inside a panel: one that opened outside would close the panel at the first click. */
export const inPanel = { withinPortal: false }
