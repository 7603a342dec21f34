/** Words that are looked for together, at most; and how long each may be. */
const MOST_WORDS = 8;
const LONGEST = 40;

const LETTERS: Record<string, string> = { ø: 'o', ł: 'l', đ: 'd', ß: 's', æ: 'a', œ: 'o' };

/**
 * Words of what somebody looks for, cut as the database cuts texts (`search_words`): without case and accents, letters
 * and digits apart.
 */
export function searchWords(text: string): string[] {
  const plain = text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[øłđßæœ]/g, (letter) => LETTERS[letter] ?? letter);
  return (plain.match(/\p{L}+|\p{N}+/gu) ?? [])
    .slice(0, MOST_WORDS)
    .map((word) => word.slice(0, LONGEST));
}

/** What finds texts that hold words beginning with each of these; '' where nothing is looked for. */
export function searchQuery(text: string): string {
  return searchWords(text)
    .map((word) => `${word}:*`)
    .join(' & ');
}
