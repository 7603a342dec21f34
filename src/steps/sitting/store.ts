import type { BandDifference } from '@/core/spectrum/transfer';
import type { SecretSeed } from '@/core/signal/random';
import type { TrialKind } from '@/core/tasks/task';
import type { Db, Tx } from '@/platform/database';
import { grouped } from '@/platform/grouped';
import { LIST_PAGE, pageWithin } from '@/platform/list-query';
import { one } from '@/platform/one';
import type { ClipFacts } from './account';
import { forgottenAlias } from './alias';
import type {
  LinkQuery,
  ListenerQuery,
  NamedListening,
  PartDraft,
  PersonalLink,
  Purpose,
  SealedWith,
  Sitting,
  SittingCounts,
  SittingDraft,
  SittingListener,
} from './schema';

const PARTS = `(SELECT coalesce(jsonb_agg(jsonb_build_object(
    'task', task, 'clipSetId', clip_set_id, 'prompt', prompt, 'tiesAllowed', ties_allowed,
    'trials', trials,
    'pair', CASE WHEN first_chain_id IS NULL THEN NULL
      ELSE jsonb_build_array(first_chain_id, second_chain_id) END,
    'controls', jsonb_build_object('self', control_self, 'levelCatch', control_louder,
      'repeats', control_repeats),
    'adaptive', adaptive, 'words', to_jsonb(words)) ORDER BY number), '[]')
  FROM part WHERE part.sitting_id = sitting.id)`;

const COLUMNS = `id, state, title, seats, code_mode AS "codeMode", reset_sound AS "resetSound", training_sound AS "trainingSound", room, reveal,
  invited_only AS "invitedOnly", code, token, seal, seal_broken_at AS "sealBrokenAt", seal_broken_reason AS "sealBrokenReason",
  shared_link AS "sharedLink", simulated, primary_part AS "primaryPart", set_aside AS "setAside", asks_guess AS "asksGuess", sighted_trials AS "sightedTrials", blind_pack_id AS "blindPackId", brought_file AS "broughtFile",
  opened_at AS "openedAt", closed_at AS "closedAt",
  (SELECT min(told_at) FROM part_told WHERE part_told.sitting_id = sitting.id) AS "toldAt", ${PARTS} AS parts`;

export async function listSittings(db: Db, comparisonId: string): Promise<Sitting[]> {
  return db.rows<Sitting>(
    `SELECT ${COLUMNS} FROM sitting WHERE comparison_id = $1 AND purpose = 'panel'
     ORDER BY created_at DESC`,
    [comparisonId],
  );
}

/** Sealed sittings of the panel, latest first, with what was sealed of the question. */
export async function listSealed(
  db: Db,
  comparisonId: string,
): Promise<(Omit<SealedWith, 'question'> & { question: unknown })[]> {
  return db.rows(
    `SELECT id AS "sittingId", title, state = 'open' AS open, opened_at AS "openedAt",
       sealed_key::jsonb #> '{plan,question}' AS question
     FROM sitting WHERE comparison_id = $1 AND purpose = 'panel' AND sealed_key IS NOT NULL
     ORDER BY opened_at DESC, id`,
    [comparisonId],
  );
}

/** A sitting, locked until the end of the transaction. */
export async function lockSitting(
  tx: Tx,
  id: string,
): Promise<(Sitting & { comparisonId: string }) | null> {
  const [row] = await tx.rows<Sitting & { comparisonId: string }>(
    `SELECT ${COLUMNS}, comparison_id AS "comparisonId" FROM sitting WHERE id = $1 FOR UPDATE`,
    [id],
  );
  return row ?? null;
}

/** What a sitting is for, and whose a self-test is. */
export type Meant =
  | { purpose: Exclude<Purpose, 'self-test'> }
  | { purpose: 'self-test'; testerId: string; heardBefore: boolean };

export async function insertSitting(
  db: Db,
  ids: { comparisonId: string; token: string } & Meant,
  draft: SittingDraft,
  simulated: boolean,
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO sitting (comparison_id, token, title, seats, code_mode, reset_sound, room,
       simulated, purpose, created_at, invited_only, primary_part, reveal, tester_id, heard_before,
       training_sound, set_aside, asks_guess, sighted_trials)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19) RETURNING id`,
      [
        ids.comparisonId,
        ids.token,
        draft.title,
        draft.seats,
        draft.codeMode,
        draft.resetSound,
        draft.room,
        simulated,
        ids.purpose,
        at,
        draft.invitedOnly,
        draft.primaryPart,
        draft.reveal,
        ids.purpose === 'self-test' ? ids.testerId : null,
        ids.purpose === 'self-test' && ids.heardBefore,
        draft.trainingSound,
        JSON.stringify(draft.setAside),
        draft.asksGuess,
        draft.sightedTrials,
      ],
    ),
  );
  return id;
}

/** Where answers came from that were not given here: the sheets of a blind pack, or a file of another program. */
export type CameFrom = { blindPackId: string } | { file: string; sha256: string; csv: Buffer };

/** A sitting that was answered elsewhere: it comes in closed. */
export async function insertAnswered(
  db: Db,
  ids: { id: string; comparisonId: string; token: string },
  from: CameFrom,
  draft: SittingDraft,
  key: { seal: string; sealedKey: string },
  at: { begun: Date; ended: Date },
): Promise<void> {
  await db.rows(
    `INSERT INTO sitting (id, comparison_id, token, title, seats, code_mode, reset_sound, room, simulated,
       purpose, created_at, invited_only, shared_link, primary_part, reveal, state, seal, sealed_key,
       opened_at, closed_at, blind_pack_id, brought_file, brought_sha256, brought_csv)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, false, 'panel', $9, true, false, $10, $11, 'closed', $12, $13,
       $14, $9, $15, $16, $17, $18)`,
    [
      ids.id,
      ids.comparisonId,
      ids.token,
      draft.title,
      draft.seats,
      draft.codeMode,
      draft.resetSound,
      draft.room,
      at.ended,
      draft.primaryPart,
      draft.reveal,
      key.seal,
      key.sealedKey,
      at.begun,
      'blindPackId' in from ? from.blindPackId : null,
      ...('file' in from ? [from.file, from.sha256, from.csv] : [null, null, null]),
    ],
  );
}

/** What was made of answers to a pack, newest first. */
export async function sittingsOfPack(
  db: Db,
  comparisonId: string,
  blindPackId: string,
): Promise<{ title: string; at: Date }[]> {
  return db.rows(
    `SELECT title, closed_at AS at FROM sitting
     WHERE comparison_id = $1 AND blind_pack_id = $2 ORDER BY closed_at DESC`,
    [comparisonId, blindPackId],
  );
}

/** Titles of the sittings that a file was imported as, newest first. */
export async function sittingsOfFile(
  db: Db,
  comparisonId: string,
  sha256: string,
): Promise<string[]> {
  const rows = await db.rows<{ title: string }>(
    'SELECT title FROM sitting WHERE comparison_id = $1 AND brought_sha256 = $2 ORDER BY closed_at DESC',
    [comparisonId, sha256],
  );
  return rows.map(({ title }) => title);
}

export async function updateSitting(db: Db, id: string, draft: SittingDraft): Promise<void> {
  await db.rows(
    `UPDATE sitting SET title = $2, seats = $3, code_mode = $4, reset_sound = $5, room = $6,
       invited_only = $7, primary_part = $8, reveal = $9, training_sound = $10, set_aside = $11, asks_guess = $12,
       sighted_trials = $13
     WHERE id = $1`,
    [
      id,
      draft.title,
      draft.seats,
      draft.codeMode,
      draft.resetSound,
      draft.room,
      draft.invitedOnly,
      draft.primaryPart,
      draft.reveal,
      draft.trainingSound,
      JSON.stringify(draft.setAside),
      draft.asksGuess,
      draft.sightedTrials,
    ],
  );
}

/** Writes the parts of a plan in place of those it had. */
export async function replaceParts(
  db: Db,
  ids: { comparisonId: string; sittingId: string },
  parts: readonly PartDraft[],
): Promise<void> {
  await db.rows('DELETE FROM part WHERE sitting_id = $1', [ids.sittingId]);
  for (const [i, part] of parts.entries()) {
    await db.rows(
      `INSERT INTO part (sitting_id, comparison_id, number, task, clip_set_id, prompt, ties_allowed,
         trials, first_chain_id, second_chain_id, control_self, control_louder, control_repeats, words,
         adaptive)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15)`,
      [
        ids.sittingId,
        ids.comparisonId,
        i + 1,
        part.task,
        part.clipSetId,
        part.prompt,
        part.tiesAllowed,
        part.trials,
        part.pair?.[0] ?? null,
        part.pair?.[1] ?? null,
        part.controls.self,
        part.controls.levelCatch,
        part.controls.repeats,
        part.words,
        part.adaptive,
      ],
    );
  }
}

export interface KeyChain {
  id: string;
  name: string;
  clipSha256: string;
}

export async function chainsOfSet(db: Db, clipSetId: string): Promise<KeyChain[]> {
  return db.rows<KeyChain>(
    `SELECT chain.id, chain.name, audio.sha256 AS "clipSha256" FROM clip
     JOIN chain ON chain.id = clip.chain_id JOIN audio ON audio.id = clip.master_audio_id
     WHERE clip.clip_set_id = $1 ORDER BY chain.position`,
    [clipSetId],
  );
}

/** A clip's chain, and what turns the reference into it; null where unknown. */
export interface ColouredChain {
  id: string;
  name: string;
  against: BandDifference[] | null;
}

/** Of each of many sets its clips, in the order of the chains. */
export async function colouredChains(
  db: Db,
  clipSetIds: readonly string[],
): Promise<Map<string, ColouredChain[]>> {
  return grouped(
    await db.rows<ColouredChain & { of: string }>(
      `SELECT clip_set_id AS of, chain.id, chain.name, pictures->'third'->'against' AS against
       FROM clip JOIN chain ON chain.id = clip.chain_id
       WHERE clip_set_id = ANY ($1::uuid[]) ORDER BY chain.position`,
      [clipSetIds],
    ),
  );
}

/** Judged trials of an opened sitting, seat by seat; chains under numbers that mean nothing outside. */
export async function judgedTrials(
  db: Db,
  sittingId: string,
): Promise<{ part: number; seat: number; slots: number[] }[]> {
  return db.rows(
    `SELECT part, seat, array_agg(place ORDER BY slot) AS slots
     FROM (SELECT part, seat, position, slot,
             (dense_rank() OVER (PARTITION BY part ORDER BY chain_id) - 1)::int AS place
           FROM trial JOIN trial_clip USING (sitting_id, seat, position)
           WHERE sitting_id = $1 AND kind = 'judged') AS placed
     GROUP BY part, seat, position ORDER BY part, seat, position`,
    [sittingId],
  );
}

/** Chains and length of each set of clips of a comparison. */
export async function clipFactsOf(db: Db, comparisonId: string): Promise<Map<string, ClipFacts>> {
  const rows = await db.rows<ClipFacts & { id: string }>(
    `SELECT id, (SELECT count(*)::int FROM clip WHERE clip_set_id = clip_set.id) AS chains,
       passage_to_s - passage_from_s AS "clipSeconds" FROM clip_set WHERE comparison_id = $1`,
    [comparisonId],
  );
  return new Map(rows.map(({ id, ...facts }) => [id, facts]));
}

export interface TrialRow {
  seat: number;
  position: number;
  part: number;
  kind: TrialKind;
  rightSlot: number | null;
  seed: SecretSeed;
  slots: TrialClipRow[];
}

export interface TrialClipRow {
  clipSetId: string;
  chainId: string;
  gainDb: number;
  word: string;
  address: string;
  seed: SecretSeed;
}

/** As many as go into one statement; all of a large sitting would be tens of megabytes. */
const TRIALS_AT_ONCE = 10_000;

export async function insertTrials(
  db: Db,
  sittingId: string,
  trials: readonly TrialRow[],
): Promise<void> {
  for (let from = 0; from < trials.length; from += TRIALS_AT_ONCE) {
    await insertTrialRows(db, sittingId, trials.slice(from, from + TRIALS_AT_ONCE));
  }
}

async function insertTrialRows(
  db: Db,
  sittingId: string,
  trials: readonly TrialRow[],
): Promise<void> {
  const column = <K extends keyof TrialRow>(name: K) => trials.map((trial) => trial[name]);
  await db.rows(
    `INSERT INTO trial (sitting_id, seat, position, part, kind, right_slot, seed)
     SELECT $1::uuid, * FROM unnest($2::int[], $3::int[], $4::int[], $5::text[], $6::int[],
       $7::text[])`,
    [
      sittingId,
      column('seat'),
      column('position'),
      column('part'),
      column('kind'),
      column('rightSlot'),
      column('seed'),
    ],
  );
  const clips = trials.flatMap(({ seat, position, slots }) =>
    slots.map((clip, slot) => ({ seat, position, slot, ...clip })),
  );
  const field = <K extends keyof (typeof clips)[number]>(name: K) =>
    clips.map((clip) => clip[name]);
  await db.rows(
    `INSERT INTO trial_clip (sitting_id, seat, position, slot, clip_set_id, chain_id, gain_db, word,
       address, seed)
     SELECT $1::uuid, * FROM unnest($2::int[], $3::int[], $4::int[], $5::uuid[], $6::uuid[],
       $7::float8[], $8::text[], $9::text[], $10::text[])`,
    [
      sittingId,
      field('seat'),
      field('position'),
      field('slot'),
      field('clipSetId'),
      field('chainId'),
      field('gainDb'),
      field('word'),
      field('address'),
      field('seed'),
    ],
  );
}

export async function markOpen(
  db: Db,
  id: string,
  sealed: { seal: string; sealedKey: string; code: string },
  at: Date,
): Promise<void> {
  await db.rows(
    `UPDATE sitting SET state = 'open', seal = $2, sealed_key = $3, code = $4, opened_at = $5,
       shared_link = NOT invited_only WHERE id = $1`,
    [id, sealed.seal, sealed.sealedKey, sealed.code, at],
  );
}

export async function setAdaptiveSeed(
  db: Db,
  sittingId: string,
  part: number,
  seed: number,
): Promise<void> {
  await db.rows('UPDATE part SET adaptive_seed = $3 WHERE sitting_id = $1 AND number = $2', [
    sittingId,
    part,
    seed,
  ]);
}

/** Closes a sitting, and sums up what each listener gave: from now on that does not change. */
export async function markClosed(db: Db, id: string, at: Date): Promise<void> {
  await db.rows(
    `UPDATE listener SET given_answers = given.answers, given_seconds = given.seconds, given_at = given.at
     FROM (SELECT listener.id, count(answered_at)::int AS answers, coalesce(sum(duration_s), 0) AS seconds,
         max(answered_at) AS at
       FROM listener LEFT JOIN answer ON answer.listener_id = listener.id
       WHERE listener.sitting_id = $1 GROUP BY listener.id) AS given
     WHERE listener.id = given.id`,
    [id],
  );
  await db.rows(`UPDATE sitting SET state = 'closed', closed_at = $2 WHERE id = $1`, [id, at]);
}

const GIVEN = '(SELECT count(*)::int FROM answer WHERE answer.listener_id = listener.id)';
const LISTENER = `seat, alias, playback, level_changes AS "levelChanges", ${GIVEN} AS answers,
  ARRAY(SELECT first_seen_at FROM listener_device WHERE listener_id = listener.id
    ORDER BY first_seen_at) AS devices,
  forgotten_at IS NOT NULL AS forgotten, same_as_seat AS "sameAsSeat",
  (SELECT alias FROM listener AS other WHERE other.sitting_id = listener.sitting_id
    AND other.seat = listener.same_as_seat) AS "sameAs"`;

/** Who took seats in a sitting. */
export async function listListeners(db: Db, sittingId: string): Promise<SittingListener[]> {
  return db.rows<SittingListener>(
    `SELECT ${LISTENER} FROM listener WHERE sitting_id = $1 ORDER BY seat`,
    [sittingId],
  );
}

const LISTENER_ORDERS: Record<ListenerQuery['sort'], string> = {
  seat: 'seat',
  alias: 'lower(alias), seat',
  answers: `${GIVEN}, seat`,
  volume: 'level_changes DESC, seat',
};
const NAMED = `WHERE sitting_id = $1 AND ($2 = '' OR position(lower($2) IN lower(alias)) > 0)`;

/** One page of them, of those in whose name a text is found. */
export async function pageOfListeners(
  db: Db,
  sittingId: string,
  { q, sort, page }: ListenerQuery,
): Promise<{ rows: SittingListener[]; found: number }> {
  const { found } = await one(
    db.rows<{ found: number }>(`SELECT count(*)::int AS found FROM listener ${NAMED}`, [
      sittingId,
      q,
    ]),
  );
  const rows = await db.rows<SittingListener>(
    `SELECT ${LISTENER} FROM listener ${NAMED} ORDER BY ${LISTENER_ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [sittingId, q, LIST_PAGE, (pageWithin(page, found) - 1) * LIST_PAGE],
  );
  return { rows, found };
}

/** Who sat where: the person of the panel, where it was one, and the name as it is compared; null once forgotten. */
export async function seatedIn(
  db: Db,
  sittingIds: readonly string[],
): Promise<{ listenerId: string; panelistId: string | null; aliasKey: string | null }[]> {
  return db.rows(
    `SELECT id AS "listenerId", panelist_id AS "panelistId",
       CASE WHEN forgotten_at IS NULL THEN alias_key END AS "aliasKey"
     FROM listener WHERE sitting_id = ANY ($1::uuid[]) ORDER BY sitting_id, seat`,
    [sittingIds],
  );
}

const LINKED = `FROM listener_link AS link JOIN panelist ON panelist.id = panelist_id
  WHERE link.sitting_id = $1 AND ($2 = '' OR position(lower($2) IN lower(panelist.alias)) > 0)`;

/** One page of the links of single people to a sitting, by name, of those in whose name a text is found. */
export async function pageOfLinks(
  db: Db,
  sittingId: string,
  { q, page }: LinkQuery,
): Promise<{ rows: PersonalLink[]; found: number }> {
  const { found } = await one(
    db.rows<{ found: number }>(`SELECT count(*)::int AS found ${LINKED}`, [sittingId, q]),
  );
  const rows = await db.rows<PersonalLink>(
    `SELECT link.id, panelist_id AS "panelistId", panelist.alias,
       withdrawn_at IS NOT NULL OR link.forgotten AS withdrawn, link.forgotten,
       EXISTS (SELECT 1 FROM listener WHERE listener.sitting_id = link.sitting_id
         AND listener.panelist_id = link.panelist_id) AS joined
     ${LINKED} ORDER BY lower(panelist.alias), link.id LIMIT $3 OFFSET $4`,
    [sittingId, q, LIST_PAGE, (pageWithin(page, found) - 1) * LIST_PAGE],
  );
  return { rows, found };
}

/** Who has a link of their own to a sitting. */
export async function linkedPanelists(db: Db, sittingId: string): Promise<string[]> {
  const rows = await db.rows<{ id: string }>(
    'SELECT panelist_id AS id FROM listener_link WHERE sitting_id = $1',
    [sittingId],
  );
  return rows.map(({ id }) => id);
}

/** Makes links for these people of an owner's panel; who has one keeps it. @returns whose were made */
export async function insertLinks(
  db: Db,
  { sittingId, ownerId }: { sittingId: string; ownerId: string },
  links: readonly { panelistId: string; tokenHash: string }[],
  at: Date,
): Promise<{ panelistId: string; alias: string }[]> {
  return db.rows(
    `WITH made AS (
       INSERT INTO listener_link (sitting_id, panelist_id, token_hash, created_at)
       SELECT $1, panelist.id, wanted.hash, $5
       FROM unnest($3::uuid[], $4::text[]) AS wanted (panelist_id, hash)
       JOIN panelist ON panelist.id = wanted.panelist_id AND owner_id = $2
       ON CONFLICT (sitting_id, panelist_id) DO NOTHING RETURNING panelist_id)
     SELECT panelist_id AS "panelistId", alias FROM made JOIN panelist ON panelist.id = panelist_id`,
    [
      sittingId,
      ownerId,
      links.map(({ panelistId }) => panelistId),
      links.map(({ tokenHash }) => tokenHash),
      at,
    ],
  );
}

/** @returns whether there is such a link that may be changed; one of somebody forgotten may not */
export async function setLinkWithdrawn(
  db: Db,
  sittingId: string,
  linkId: string,
  at: Date | null,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE listener_link SET withdrawn_at = $3 WHERE sitting_id = $1 AND id = $2 AND NOT forgotten
     RETURNING id`,
    [sittingId, linkId, at],
  );
  return rows.length > 0;
}

export async function setLinkToken(
  db: Db,
  sittingId: string,
  linkId: string,
  tokenHash: string,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE listener_link SET token_hash = $3 WHERE sitting_id = $1 AND id = $2 AND NOT forgotten
     RETURNING id`,
    [sittingId, linkId, tokenHash],
  );
  return rows.length > 0;
}

export interface Seats {
  /** Taken, by whomever. */
  taken: number;
  /** Kept for people with a link of their own who have not come yet. */
  reserved: number;
  /** The lowest number that nobody has. */
  next: number;
}

export async function countSeats(db: Db, sittingId: string): Promise<Seats> {
  const row = await one(
    db.rows<Seats>(
      `SELECT (SELECT count(*)::int FROM listener WHERE sitting_id = $1) AS taken,
       (SELECT count(*)::int FROM listener_link AS link
        WHERE sitting_id = $1 AND withdrawn_at IS NULL AND NOT forgotten AND NOT EXISTS
          (SELECT 1 FROM listener WHERE listener.sitting_id = $1
            AND listener.panelist_id = link.panelist_id)) AS reserved,
       (SELECT min(n)::int FROM generate_series(1,
          (SELECT coalesce(max(seat), 0) + 1 FROM listener WHERE sitting_id = $1)) AS n
        WHERE NOT EXISTS (SELECT 1 FROM listener WHERE sitting_id = $1 AND seat = n)) AS next`,
      [sittingId],
    ),
  );
  return row;
}

/** Frees a seat that nothing was answered on. @returns whether there was such a seat */
export async function releaseSeat(db: Db, sittingId: string, seat: number): Promise<boolean> {
  const rows = await db.rows(
    `DELETE FROM listener WHERE sitting_id = $1 AND seat = $2
       AND NOT EXISTS (SELECT 1 FROM answer WHERE listener_id = listener.id) RETURNING seat`,
    [sittingId, seat],
  );
  return rows.length > 0;
}

export async function setSharedLink(db: Db, sittingId: string, open: boolean): Promise<void> {
  await db.rows('UPDATE sitting SET shared_link = $2 WHERE id = $1', [sittingId, open]);
}

/**
 * Takes away what tells who somebody was: name, what they listened on, remarks in their own words. Their answers stay under their seat, and
 * neither their device nor their link takes another. @returns whether there was such a seat
 */
export async function forgetListener(
  db: Db,
  sittingId: string,
  seat: number,
  at: Date,
): Promise<boolean> {
  await db.rows(
    `UPDATE listener_link SET forgotten = true WHERE sitting_id = $1 AND panelist_id =
       (SELECT panelist_id FROM listener WHERE sitting_id = $1 AND seat = $2)`,
    [sittingId, seat],
  );
  // In their own words somebody may have said who they are.
  await db.rows(`UPDATE answer SET remark = '' WHERE sitting_id = $1 AND seat = $2`, [
    sittingId,
    seat,
  ]);
  const rows = await db.rows(
    `UPDATE listener SET alias = $3, alias_key = 'forgotten ' || seat, playback = '',
       panelist_id = NULL, forgotten_at = $4
     WHERE sitting_id = $1 AND seat = $2 RETURNING seat`,
    [sittingId, seat, forgottenAlias(seat), at],
  );
  return rows.length > 0;
}

/** Open sittings that ask about a set of clips, or about any of a take's source and chain. */
export async function openSittingsOver(
  db: Db,
  comparisonId: string,
  what: { clipSetId: string } | { takeId: string },
): Promise<string[]> {
  const [condition, value] =
    'clipSetId' in what
      ? ['clip.clip_set_id = $2', what.clipSetId]
      : ['clip.take_id = $2', what.takeId];
  const rows = await db.rows<{ id: string }>(
    `SELECT DISTINCT sitting.id FROM sitting JOIN part ON part.sitting_id = sitting.id
     JOIN clip ON clip.clip_set_id = part.clip_set_id
     WHERE sitting.comparison_id = $1 AND state = 'open' AND purpose = 'panel' AND ${condition}`,
    [comparisonId, value],
  );
  return rows.map(({ id }) => id);
}

/** Writes down, once for each take, that somebody heard a clip or a take by name. */
export async function insertHeardByName(
  db: Db,
  accountId: string,
  what: { clipSetId: string } | { takeId: string },
  at: Date,
): Promise<void> {
  const [takes, id] =
    'clipSetId' in what
      ? ['SELECT DISTINCT take_id FROM clip WHERE clip_set_id = $2', what.clipSetId]
      : ['SELECT id FROM take WHERE id = $2', what.takeId];
  await db.rows(
    `INSERT INTO heard_by_name (account_id, take_id, at)
     SELECT $1::uuid, heard.take_id, $3 FROM (${takes}) AS heard (take_id) ON CONFLICT DO NOTHING`,
    [accountId, id, at],
  );
}

/** Whether somebody heard any of some chains' clips of a set by name, or what they were cut from. */
export async function heardByName(
  db: Db,
  accountId: string,
  clipSetId: string,
  chainIds: readonly string[] | null,
): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM clip JOIN heard_by_name USING (take_id)
     WHERE clip_set_id = $2 AND ($3::uuid[] IS NULL OR chain_id = ANY ($3::uuid[])) AND account_id = $1
     LIMIT 1`,
    [accountId, clipSetId, chainIds],
  );
  return rows.length > 0;
}

/** Clips and takes that open sittings of a comparison ask about. */
export async function askedNow(
  db: Db,
  comparisonId: string,
): Promise<{ clipSetIds: string[]; takeIds: string[] }> {
  const rows = await db.rows<{ clipSetId: string; takeId: string }>(
    `SELECT DISTINCT clip.clip_set_id AS "clipSetId", clip.take_id AS "takeId"
     FROM sitting JOIN part ON part.sitting_id = sitting.id
     JOIN clip ON clip.clip_set_id = part.clip_set_id
     WHERE sitting.comparison_id = $1 AND state = 'open' AND purpose = 'panel'`,
    [comparisonId],
  );
  return {
    clipSetIds: [...new Set(rows.map(({ clipSetId }) => clipSetId))],
    takeIds: [...new Set(rows.map(({ takeId }) => takeId))],
  };
}

export async function insertNamedListening(
  db: Db,
  sittingIds: readonly string[],
  name: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO named_listening (sitting_id, account_name, at)
     SELECT id, $2, date_trunc('minute', $3::timestamptz) FROM unnest($1::uuid[]) AS id
     ON CONFLICT DO NOTHING`,
    [sittingIds, name, at],
  );
}

/** Who listened by name while each of many sittings was open. */
export async function listNamedListening(
  db: Db,
  sittingIds: readonly string[],
): Promise<Map<string, NamedListening[]>> {
  const rows = await db.rows<NamedListening & { of: string }>(
    `SELECT sitting_id AS of, account_name AS name, min(at) AS at FROM named_listening
     WHERE sitting_id = ANY ($1::uuid[]) GROUP BY sitting_id, account_name ORDER BY min(at)`,
    [sittingIds],
  );
  return grouped(rows);
}

/** The key of an open sitting and every trial as it lies in the bank, for comparing the two. */
export interface LaidOut {
  sealedKey: string;
  trials: LaidOutTrial[];
  parts: { number: number; task: string; clipSetId: string }[];
}

export interface LaidOutTrial {
  seat: number;
  position: number;
  part: number;
  kind: TrialKind;
  right: number | null;
  clips: { chainId: string; gainDb: number; word: string; clipSetId: string }[];
  /** What was answered; null where nothing was, or no pair was asked. */
  choice: 'first' | 'second' | 'tie' | null;
  answered: boolean;
}

export async function laidOut(db: Db, sittingId: string): Promise<LaidOut> {
  const { key } = await one(
    db.rows<{ key: string }>('SELECT sealed_key AS key FROM sitting WHERE id = $1', [sittingId]),
  );
  const trials = await db.rows<LaidOutTrial>(
    `SELECT seat, position, part, kind, right_slot AS "right", clips, answer.answer->>'choice' AS choice,
       answer.answer IS NOT NULL AS answered
     FROM trial
     JOIN (SELECT seat, position, jsonb_agg(jsonb_build_object('chainId', chain_id, 'gainDb', gain_db,
             'word', word, 'clipSetId', clip_set_id) ORDER BY slot) AS clips
           FROM trial_clip WHERE sitting_id = $1 GROUP BY seat, position) AS heard
       USING (seat, position)
     LEFT JOIN answer USING (sitting_id, seat, position)
     WHERE sitting_id = $1 ORDER BY seat, position`,
    [sittingId],
  );
  const parts = await db.rows<LaidOut['parts'][number]>(
    `SELECT number, task, clip_set_id AS "clipSetId" FROM part WHERE sitting_id = $1 ORDER BY number`,
    [sittingId],
  );
  return { sealedKey: key, trials, parts };
}

/** Drops the reading of a closed sitting, so that it is made anew. */
export async function dropAnalysis(db: Db, id: string): Promise<void> {
  await db.rows('UPDATE sitting SET analysis = NULL WHERE id = $1', [id]);
}

/** The first breaking stands; a later one changes nothing. */
export async function markBroken(db: Db, id: string, reason: string, at: Date): Promise<void> {
  await db.rows(
    `UPDATE sitting SET seal_broken_at = $2, seal_broken_reason = $3
     WHERE id = $1 AND seal_broken_at IS NULL`,
    [id, at, reason],
  );
}

/** Whether a closed sitting has neither an analysis nor a job that will make one. */
export async function lacksAnalysis(db: Db, id: string): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM sitting WHERE id = $1 AND state = 'closed' AND analysis IS NULL AND NOT EXISTS
       (SELECT 1 FROM work WHERE subject_id = $1 AND work.state IN ('waiting', 'running'))`,
    [id],
  );
  return rows.length > 0;
}

export async function deleteDraft(db: Db, id: string): Promise<void> {
  await db.rows(`DELETE FROM sitting WHERE id = $1 AND state = 'draft'`, [id]);
}

/** Takes rehearsals away with everything in them: of a comparison, or those begun before a time. */
export async function deleteRehearsals(
  db: Db,
  which: { comparisonId: string } | { before: Date },
): Promise<void> {
  const [condition, value] =
    'before' in which
      ? ['created_at < $1', which.before]
      : ['comparison_id = $1', which.comparisonId];
  const ids = (
    await db.rows<{ id: string }>(
      `SELECT id FROM sitting WHERE purpose = 'rehearsal' AND ${condition}`,
      [value],
    )
  ).map(({ id }) => id);
  if (ids.length === 0) return;
  await db.rows('DELETE FROM answer WHERE sitting_id = ANY ($1::uuid[])', [ids]);
  await db.rows('DELETE FROM listener WHERE sitting_id = ANY ($1::uuid[])', [ids]);
  await db.rows('DELETE FROM sitting WHERE id = ANY ($1::uuid[])', [ids]);
}

/** What was sealed and paid in over the sittings of a comparison; rehearsals do not count. */
export interface SittingStanding {
  sittings: number;
  /** Sealed, open or closed. */
  sealed: boolean;
  open: boolean;
  closed: boolean;
  listeners: number;
  answers: number;
}

/** In each of many comparisons, what its sittings are and what was paid in; those without any are left out. */
export async function sittingCounts(
  db: Db,
  comparisonIds: readonly string[],
): Promise<(SittingStanding & { comparisonId: string })[]> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", count(*)::int AS sittings,
       bool_or(state <> 'draft') AS sealed, bool_or(state = 'open') AS open,
       bool_or(state = 'closed') AS closed,
       sum((SELECT count(*) FROM listener WHERE sitting_id = sitting.id))::int AS listeners,
       sum((SELECT count(*) FROM answer WHERE sitting_id = sitting.id))::int AS answers
     FROM sitting WHERE comparison_id = ANY ($1::uuid[]) AND purpose = 'panel' GROUP BY comparison_id`,
    [comparisonIds],
  );
}

/** What was paid into each of many sittings. */
export async function countsOf(
  db: Db,
  sittingIds: readonly string[],
): Promise<Map<string, SittingCounts>> {
  const rows = await db.rows<SittingCounts & { id: string }>(
    `SELECT planned.id, count(panel.given)::int AS joined,
       (count(*) FILTER (WHERE given >= trials))::int AS finished,
       coalesce(sum(given), 0)::int AS answers, max(trials)::int AS "trialsEach"
     FROM (SELECT id, (SELECT count(*)::int FROM trial WHERE sitting_id = id AND seat = 1) AS trials
       FROM unnest($1::uuid[]) AS id) AS planned
     LEFT JOIN (SELECT sitting_id AS id,
         (SELECT count(*)::int FROM answer WHERE answer.listener_id = listener.id) AS given
       FROM listener WHERE sitting_id = ANY ($1::uuid[])) AS panel USING (id)
     GROUP BY planned.id`,
    [sittingIds],
  );
  return new Map(rows.map(({ id, ...counts }) => [id, counts]));
}

/** Places of somebody in sittings, locked until the end of the transaction. */
export async function seatsOf(
  tx: Tx,
  ownerId: string,
  panelistId: string,
): Promise<{ sittingId: string; seat: number }[]> {
  return tx.rows(
    `SELECT sitting_id AS "sittingId", seat FROM listener
     JOIN panelist ON panelist.id = panelist_id
     WHERE owner_id = $1 AND panelist_id = $2 FOR UPDATE OF listener`,
    [ownerId, panelistId],
  );
}

/** Keeps what was read out of a closed sitting. @returns its comparison, null where it is not closed */
export async function storeAnalysis(
  db: Db,
  sittingId: string,
  analysis: object,
): Promise<string | null> {
  const [row] = await db.rows<{ id: string }>(
    `UPDATE sitting SET analysis = $2 WHERE id = $1 AND state = 'closed'
     RETURNING comparison_id AS id`,
    [sittingId, JSON.stringify(analysis)],
  );
  return row?.id ?? null;
}

/** Says in which version it is written down how the chains of a closed sitting stood. */
export async function markStandings(tx: Tx, sittingId: string, version: string): Promise<void> {
  await tx.rows('UPDATE sitting SET standings = $2 WHERE id = $1', [sittingId, version]);
}
