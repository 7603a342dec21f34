import unhomoglyph from 'unhomoglyph';

/**
 * A name as it is compared: letters of one form (NFKC), without signs that nobody sees, those that look alike
 * taken for one (Unicode TR 39), in lower case and with single spaces.
 */
export function aliasKey(alias: string): string {
  const plain = alias
    .normalize('NFKC')
    .replace(/[\p{C}\p{Default_Ignorable_Code_Point}]/gu, '')
    .replace(/\s+/gu, ' ')
    .trim()
    .toLowerCase();
  return unhomoglyph(plain).toLowerCase();
}

/** The name of a seat whose person was forgotten; nobody else may take it. */
export const forgottenAlias = (seat: number): string => `Listener ${seat} (forgotten)`;

/** Whether a name looks like that of somebody who was forgotten. */
export function looksForgotten(alias: string): boolean {
  return aliasKey(alias).includes(aliasKey('(forgotten)'));
}
