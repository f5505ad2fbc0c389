/** How much of a pane's width the model may take, so that it does not touch the edge. */
const OF_WIDTH = 0.92;

/**
 * How many times further off the camera stands than where only the pane's height bounds the view, so that what fits a sphere fits the
 * pane as well. The angle of view is that of its height.
 * @param aspect width by height of the pane
 */
export const distanceFor = (aspect: number): number => 1 / Math.min(1, Math.max(1e-3, aspect) * OF_WIDTH);
