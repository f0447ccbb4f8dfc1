/** The secret of a link from an e-mail. It stands behind #, so that browsers send it to nobody; it stays there for a reload. */
export const linkSecret = () => location.hash.slice(1)
