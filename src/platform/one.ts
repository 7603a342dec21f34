/** The only row of what is asked, where there always is one; an error where there is none. */
export async function one<T>(rows: Promise<readonly T[]>): Promise<T> {
  const [row] = await rows;
  if (row === undefined) throw new Error('a row that must be there is missing');
  return row;
}
