/** What nobody knows of answers that came in as files. */
export const SHEETS_NOTE =
  'The answers came back in the sheets of a blind pack: how they were given, how long anybody listened and at which level, nobody here can tell.';
export const FILE_NOTE =
  'The results of another program were brought in from a file: whether anybody was blind, what was heard at which level, in which order, and what was left out, nobody here can tell.';

/** Where answers came from that were not given here. */
export interface GivenElsewhere {
  fromPack: object | null;
  fromFile: { file: string; sha256: string } | null;
}

/** How the answers of a sitting were given, in words. */
export function heardIn({
  fromPack,
  fromFile,
  room,
}: GivenElsewhere & { room: 'own' | 'together' }): string {
  if (fromFile) return `elsewhere, as the file “${fromFile.file}” says`;
  if (fromPack) return 'at home or elsewhere, in the sheets of a blind pack';
  return room === 'together' ? 'together in one room' : 'each on their own headphones or speakers';
}

/** What was fixed before anybody listened; the number of the seal follows. */
export function sealedWords({ fromPack, fromFile }: GivenElsewhere): string {
  if (fromFile) {
    return `Nothing was sealed here before anybody listened. What was brought in was fixed then: the file “${fromFile.file}” has the SHA-256 ${fromFile.sha256}, and what was made of it this number:`;
  }
  return fromPack
    ? 'Which word stands for which clip was fixed before the pack was given away; no plan was. The pack holds this number, the SHA-256 of its key:'
    : 'Plan, orders and names were fixed before anybody listened. Everybody who listened was shown this number, the SHA-256 of the key:';
}
