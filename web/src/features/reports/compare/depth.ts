/** How dark clicks are shown beside the most there are: 0 for none, 1 for the most. By the root, so that few are still seen beside many. */
export const depthOf = (clicks: number, most: number) => Math.sqrt(clicks / Math.max(1, most)).toFixed(2)
