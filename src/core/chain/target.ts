/** Average level that recording aims at, and what peaks should stay under, dBFS. */
export const TARGET_DBFS = -18;
export const PEAK_TARGET_DBFS = -10;
