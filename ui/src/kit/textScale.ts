/** How much larger than usual the reader's text is; drawings have no rem of their own. */
export const textScale = () => parseFloat(getComputedStyle(document.documentElement).fontSize) / 16;
