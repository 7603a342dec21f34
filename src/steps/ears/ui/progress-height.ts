/** Room that the picture of progress takes, known before the picture itself is loaded. */
export const PROGRESS_PX = 260;
