/** Pixels of a page drawn as a picture: asked before it is drawn, and held to when it is. */
export const MOST_PAGE_PX = 110e6;
