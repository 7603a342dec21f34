/** What nobody knows of answers that came in as files. */
export const SHEETS_NOTE =
  'The answers came back in the sheets of a blind pack: how they were given, how long anybody listened and at which level, nobody here can tell.';

/** How the answers of a sitting were given, in words. */
export function heardIn({
  fromPack,
  room,
}: {
  fromPack: object | null;
  room: 'own' | 'together';
}): string {
  if (fromPack) return 'at home or elsewhere, in the sheets of a blind pack';
  return room === 'together' ? 'together in one room' : 'each on their own headphones or speakers';
}

/** What was fixed before anybody listened; the number of the seal follows. */
export const sealedWords = (fromPack: object | null): string =>
  fromPack
    ? 'Which word stands for which clip was fixed before the pack was given away; no plan was. The pack holds this number, the SHA-256 of its key:'
    : 'Plan, orders and names were fixed before anybody listened. Everybody who listened was shown this number, the SHA-256 of the key:';
