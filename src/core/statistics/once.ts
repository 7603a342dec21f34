/**
 * Works something out of rows once, however often it is asked of the same ones: sections rest on each other's parts,
 * and rows are never changed once they are read. What is worked out goes with the rows.
 */
export function once<Rows extends object, Result extends object>(
  work: (rows: Rows) => Result,
): (rows: Rows) => Result {
  const done = new WeakMap<Rows, Result>();
  return (rows) => {
    const before = done.get(rows);
    if (before) return before;
    const result = work(rows);
    done.set(rows, result);
    return result;
  };
}
