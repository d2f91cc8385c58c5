/** So far counts go; one more stands for all beyond. */
export const COUNTED_TO = 1000;

/** Whether a count says only that there are more than are counted. */
export const isBeyond = (count: number): boolean => count > COUNTED_TO;
