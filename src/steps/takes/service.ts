import { proposedChains } from '@/core/checks/chain-names';
import { activeSeconds, nearestTakes } from '@/core/checks/nearest-takes';
import { readName } from '@/core/checks/naming';
import type { ReferenceAlignment } from '@/core/checks/set/set-check';
import { checkTake } from '@/core/checks/take-checks';
import { dropOrphans, sealAudio } from '@/platform/audio-store';
import { binSince } from '@/platform/bin';
import { type Db, db, transaction, type Tx, violatesUnique } from '@/platform/database';
import { requireSpace } from '@/platform/disk-space';
import { notFound, UserError } from '@/platform/errors';
import { enqueue, openJobs } from '@/platform/jobs';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { type Chain, chainDraft } from '@/steps/chains/schema';
import {
  copyInto,
  nameTaken,
  refuseTooMany,
  refuseUsedChain,
  restoreOwnChain,
} from '@/steps/chains/service';
import {
  insertChain,
  listRecordedChains,
  markChainDeleted,
  referenceOf,
} from '@/steps/chains/store';
import type { Source } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { layAlike, listSources } from '@/steps/comparisons/store';
import type { StoredFacts } from './facts';
import { foremost, performances } from './performances';
import {
  type ChannelMap,
  PEAKS_PER_S,
  type PerformanceChoice,
  type ShownTake,
  type StoredTake,
  type Take,
  type TakesChange,
} from './schema';
import {
  type ArchiveSource,
  binTake,
  copyTakes,
  deleteArchive,
  deleteStaleUploads,
  deleteTake,
  eraseRemovedTakes,
  findArchive,
  findByAudio,
  findBySound,
  findStale,
  findTake,
  insertArchive,
  insertTake,
  isUsed,
  letTakesGo,
  listTakes,
  moveAudio,
  type NewTake,
  pickTake,
  putOverride,
  repeatedTakes,
  setUsual,
  replaceAudio,
  replaceFacts,
  finishArchive,
  finishTake,
  takePeaks,
  type TakeSource,
  updateReferenceAlignment,
  takeBack,
  unbinTake,
  updateTakes,
  promisedBytes,
} from './store';

/** Serialises what is decided about the takes of a comparison. */
async function lockTakes(tx: Tx, comparisonId: string): Promise<void> {
  await tx.rows('SELECT pg_advisory_xact_lock(hashtextextended($1, 2))', [comparisonId]);
}

export interface Arrived {
  comparisonId: string;
  audioId: number;
  fileName: string;
  pattern?: string;
}

/**
 * Makes sure that an upload will fit: what others were promised and have not sent yet is not free any more.
 * @throws as the system would on a full disk
 */
export async function reserveSpace(tx: Tx, bytes: number): Promise<void> {
  await requireSpace(bytes + (await promisedBytes(tx)));
}

/** A finished upload: a take that is inspected next, or an archive that is unpacked. */
export async function receiveUpload(tx: Tx, arrived: Arrived, at: Date): Promise<void> {
  if (!/\.zip$/i.test(arrived.fileName)) {
    await receiveTake(tx, arrived, at);
    return;
  }
  const { comparisonId, fileName, audioId, pattern = '' } = arrived;
  const archive = { comparisonId, audioId, fileName, pattern };
  const subjectId = await insertArchive(tx, archive, at);
  await enqueue(tx, 'unpack-archive', { comparisonId, subjectId, label: fileName }, at);
}

/** Makes a take of stored bytes, reads its name, and has it inspected. */
export async function receiveTake(tx: Tx, arrived: Arrived, at: Date): Promise<string> {
  const { comparisonId, fileName, pattern = '' } = arrived;
  const chains = await listRecordedChains(tx, comparisonId);
  const sources = await listSources(tx, comparisonId);
  const read = readName(
    fileName,
    pattern,
    chains.map(({ name }) => name),
    sources.map(({ name }) => name),
  );
  const backing = read.programme === 'backing';
  const takeId = await insertTake(
    tx,
    {
      ...arrived,
      chainId: read.chain === null || backing ? null : chains[read.chain]!.id,
      sourceId: sources[read.source ?? 0]!.id,
      programme: read.programme,
      detail: read.detail,
    },
    at,
  );
  await enqueue(tx, 'inspect-take', { comparisonId, subjectId: takeId, label: fileName }, at);
  return takeId;
}

/** A take of the simulated bench: where it belongs is known. */
export async function keepRecorded(tx: Tx, take: NewTake, at: Date): Promise<void> {
  const takeId = await insertTake(tx, { ...take, simulated: true }, at);
  const { comparisonId, fileName } = take;
  await enqueue(tx, 'inspect-take', { comparisonId, subjectId: takeId, label: fileName }, at);
}

/** Takes with what their checks say; those that look at the whole set are made here. */
export async function takesOf(engineer: SignedIn, comparisonId: string): Promise<Take[]> {
  await comparisonOf(engineer, comparisonId);
  return checkedTakes(db(), comparisonId);
}

export async function checkedTakes(from: Db, comparisonId: string): Promise<Take[]> {
  const takes = await listTakes(from, comparisonId);
  const sets = new Map<string, StoredFacts[]>();
  const keyOf = (take: Pick<Take, 'programme' | 'sourceId'>) =>
    `${take.programme} ${take.sourceId}`;
  for (const take of takes) {
    if (take.facts) sets.set(keyOf(take), [...(sets.get(keyOf(take)) ?? []), take.facts]);
  }
  const played = performances(takes);
  return takes.map((stored) => {
    const take = { ...stored, performance: played.get(stored.id) ?? null };
    if (!take.facts) return { ...take, checks: [] };
    const facts = { ...take.facts, referenceAlignment: take.referenceAlignment };
    return { ...take, checks: checkTake(facts, sets.get(keyOf(take)) ?? [], take.programme) };
  });
}

/** What a page needs of a take. */
export function shownTake({ facts, referenceAlignment, ...take }: Take): ShownTake {
  return {
    ...take,
    facts: facts && {
      encoding: facts.encoding,
      channels: facts.channels,
      bitDepth: facts.bitDepth,
      sampleRateHz: facts.sampleRateHz,
      durationS: facts.durationS,
      metadata: facts.metadata,
      warnings: facts.warnings,
      measurement: {
        integratedLufs: facts.measurement.integratedLufs,
        truePeakDbtp: facts.measurement.truePeakDbtp,
      },
    },
    referenceAlignment: referenceAlignment && { onsetDelayS: referenceAlignment.onsetDelayS },
  };
}

/** Chains that takes without one speak of by their files' names. */
export function proposalsFor(
  takes: readonly Pick<Take, 'id' | 'fileName' | 'chainId' | 'state' | 'programme'>[],
  chains: readonly Chain[],
  sources: readonly Source[],
): { chain: Chain | null; name: string; takeIds: string[] }[] {
  const loose = takes
    .filter(
      ({ chainId, state, programme }) =>
        chainId === null && (state === 'ready' || state === 'waiting') && programme !== 'backing',
    )
    .sort((a, b) => a.fileName.localeCompare(b.fileName, 'en', { numeric: true }));
  const read = proposedChains(
    loose.map(({ fileName }) => fileName),
    sources.map(({ name }) => name),
    chains.map(({ name }) => name),
  );
  return read.map(({ chain, name, files }) => ({
    chain: chain === null ? null : chains[chain]!,
    name,
    takeIds: files.map((file) => loose[file]!.id),
  }));
}

/** Makes the chains that files without one speak of, and gives each its files. */
export async function makeChainsOfNames(
  engineer: SignedIn,
  comparisonId: string,
  at: Date,
): Promise<{ chains: number; takes: number }> {
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await lockTakes(tx, comparisonId);
    const chains = await listRecordedChains(tx, comparisonId);
    const takes = await listTakes(tx, comparisonId);
    const proposals = proposalsFor(takes, chains, await listSources(tx, comparisonId));
    const fresh = proposals.filter(({ chain }) => chain === null).length;
    await refuseTooMany(tx, comparisonId, fresh);
    for (const { chain, name, takeIds } of proposals) {
      const draft = chainDraft.parse({ name, items: '', priceCents: null });
      const made = () =>
        insertChain(tx, comparisonId, draft).catch((error: unknown) => nameTaken(error, name));
      const chainId = chain?.id ?? (await made());
      await updateTakes(tx, takeIds, { chainId });
    }
    await relateLater(tx, comparisonId, at);
    await announce(tx, comparisonId);
    const given = proposals.reduce((sum, { takeIds }) => sum + takeIds.length, 0);
    return { chains: fresh, takes: given };
  });
}

/** A take this engineer may see, of this comparison. */
export async function takeOf(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
): Promise<TakeSource> {
  await comparisonOf(engineer, comparisonId);
  const take = await findTake(db(), takeId);
  if (take?.comparisonId !== comparisonId) throw notFound('take');
  return take;
}

export async function peaksOf(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
): Promise<number[]> {
  await takeOf(engineer, comparisonId, takeId);
  return [...((await takePeaks(db(), takeId)) ?? [])];
}

/**
 * Gives takes to a chain, a source, a step of the programme; several at once. Those that were removed meanwhile
 * are passed over, so that the rest is not lost. @returns how many are gone
 */
export async function changeTakes(
  engineer: SignedIn,
  comparisonId: string,
  { takeIds, newChainName, ...change }: TakesChange,
  at: Date,
): Promise<{ gone: number }> {
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    // One after another, so that each finds what the one before made.
    await lockTakes(tx, comparisonId);
    const states = new Map((await listTakes(tx, comparisonId)).map(({ id, state }) => [id, state]));
    const there = takeIds.filter((id) => states.has(id));
    if (there.length === 0) throw notFound('take');
    for (const id of there) {
      const state = states.get(id);
      if (state === 'refused' || state === 'duplicate') {
        throw new UserError(409, 'This file cannot be used, so it cannot belong to a chain.');
      }
    }
    const chains = await listRecordedChains(tx, comparisonId);
    const sources = await listSources(tx, comparisonId);
    let { chainId } = change;
    if (newChainName !== undefined) {
      const same = chains.find(({ name }) => name.toLowerCase() === newChainName.toLowerCase());
      const draft = chainDraft.parse({ name: newChainName, items: '', priceCents: null });
      chainId = same?.id ?? (await insertChain(tx, comparisonId, draft));
    } else if (chainId && !chains.some(({ id }) => id === chainId)) {
      throw notFound('chain');
    }
    const { sourceId } = change;
    if (sourceId && !sources.some(({ id }) => id === sourceId)) throw notFound('source');
    await updateTakes(tx, there, { ...change, chainId });
    const played = newChainName === undefined && Object.keys(change).join() === 'performance';
    if (played) await chooseForemost(tx, comparisonId, await listTakes(tx, comparisonId));
    else await relateLater(tx, comparisonId, at);
    await announce(tx, comparisonId);
    return { gone: takeIds.length - there.length };
  });
}

/** Clips of its chain are made of this take from now on. */
export async function pickOne(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
): Promise<void> {
  const take = await takeOf(engineer, comparisonId, takeId);
  if (take.chainId === null || take.state !== 'ready' || take.programme !== 'performance') {
    throw new UserError(409, 'Only a checked take of a performance that has a chain can be used.');
  }
  await transaction(async (tx) => {
    await lockTakes(tx, comparisonId);
    await pickTake(tx, take);
    await announce(tx, comparisonId);
  });
}

/**
 * Clips of all chains are made of one performance from now on. Chains that were not recorded then keep what they have.
 * @returns for how many chains a take was picked
 */
export async function pickPerformance(
  engineer: SignedIn,
  comparisonId: string,
  { sourceId, number }: PerformanceChoice,
): Promise<{ picked: number }> {
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await lockTakes(tx, comparisonId);
    const takes = (await listTakes(tx, comparisonId)).filter((take) => take.sourceId === sourceId);
    const played = performances(takes);
    const chosen = takes.filter(({ id }) => {
      const performance = played.get(id);
      return performance?.number === number && performance.renderedFrom === null;
    });
    if (chosen.length === 0) {
      throw new UserError(422, `There is no take of performance ${number} of this source.`);
    }
    for (const take of chosen) await pickTake(tx, take);
    await announce(tx, comparisonId);
    return { picked: new Set(chosen.map(({ chainId }) => chainId)).size };
  });
}

/** Makes several takes of a file with many channels; the file is stored once. */
export async function splitTake(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
  { parts }: ChannelMap,
  at: Date,
): Promise<void> {
  const take = await takeOf(engineer, comparisonId, takeId);
  const count = take.facts?.channels ?? 0;
  if (take.state !== 'ready' || take.channels !== null || count < 2) {
    throw new UserError(409, 'Only a whole file with several channels can be split.');
  }
  const beyond = parts.flatMap(({ channels }) => channels).find((channel) => channel >= count);
  if (beyond !== undefined) {
    throw new UserError(422, `The file has ${count} channels; channel ${beyond + 1} is not there.`);
  }
  await transaction(async (tx) => {
    await lockTakes(tx, comparisonId);
    if (await isUsed(tx, takeId)) {
      throw new UserError(409, 'Clips were made of this file as it is; it stays whole.');
    }
    const chains = await listRecordedChains(tx, comparisonId);
    for (const { channels, chainId } of parts) {
      if (chainId && !chains.some(({ id }) => id === chainId)) throw notFound('chain');
      const { fileName, audioId, sourceId, programme, detail } = take;
      const part = { comparisonId, audioId, fileName, chainId, channels };
      const id = await insertTake(tx, { ...part, sourceId, programme, detail }, at);
      const label = `${fileName}, channel ${channels.map((c) => c + 1).join(' and ')}`;
      await enqueue(tx, 'inspect-take', { comparisonId, subjectId: id, label }, at);
    }
    await deleteTake(tx, takeId, take.audioId);
    await announce(tx, comparisonId);
  });
}

/** Records that a remark of a check was looked at and the take may stay; or takes that back. */
export async function overrideCheck(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
  { check, reason }: { check: string; reason: string | null },
  at: Date,
): Promise<void> {
  await takeOf(engineer, comparisonId, takeId);
  await transaction(async (tx) => {
    await putOverride(tx, { takeId, check, reason, accountId: engineer.accountId }, at);
    await announce(tx, comparisonId);
  });
}

/** Removes a chain; its takes stay, without a chain. Can be undone; refused once clips were made of it. */
export async function removeChain(
  engineer: SignedIn,
  comparisonId: string,
  chainId: string,
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await refuseUsedChain(tx, comparisonId, chainId);
    await markChainDeleted(tx, comparisonId, chainId, at);
    await letTakesGo(tx, comparisonId, chainId);
    await announce(tx, comparisonId);
  });
}

/** Takes that back; its takes return unless another chain has them by now. */
export async function bringChainBack(
  engineer: SignedIn,
  comparisonId: string,
  chainId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await restoreOwnChain(tx, comparisonId, chainId);
    await takeBack(tx, comparisonId, chainId);
    await announce(tx, comparisonId);
  });
}

/** Removes a take, for thirty days in such a way that it can be put back; refused once clips were made of it. */
export async function removeTake(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
  at: Date,
): Promise<void> {
  const take = await takeOf(engineer, comparisonId, takeId);
  await transaction(async (tx) => {
    if (await isUsed(tx, takeId)) {
      throw new UserError(
        409,
        'Clips were made of this take; it stays, so that they can be explained.',
      );
    }
    // What never became a take has nothing to come back.
    if (take.state === 'ready') await binTake(tx, takeId, at);
    else await deleteTake(tx, takeId, take.audioId);
    await announce(tx, comparisonId);
  });
}

/** Puts a removed take back where it was. */
export async function restoreTake(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  try {
    await transaction(async (tx) => {
      await lockTakes(tx, comparisonId);
      if (!(await unbinTake(tx, comparisonId, takeId))) throw notFound('take');
      await announce(tx, comparisonId);
    });
  } catch (error) {
    if (!violatesUnique(error, 'take_content')) throw error;
    throw new UserError(409, 'This file is among the takes again already; nothing was changed.');
  }
}

/** Erases takes that were removed longer ago than they are offered again. */
export async function tidyRemovedTakes(now: Date): Promise<void> {
  await transaction((tx) => eraseRemovedTakes(tx, binSince(now)));
}

export type Inspection =
  | {
      outcome: 'ready';
      sha256: string;
      facts: StoredFacts;
      peaks: Uint8Array;
      /** What was decoded from the file and stands in its place. */
      decodedAudioId: number | null;
    }
  | { outcome: 'refused'; sha256: string; reason: string };

/** Keeps what the inspection found; the same content twice becomes a remark, not a second take. */
export async function keepInspection(takeId: string, found: Inspection, at: Date): Promise<void> {
  await transaction(async (tx) => {
    const take = await findTake(tx, takeId);
    if (!take || take.state !== 'waiting') return;
    const { comparisonId } = take;
    await lockTakes(tx, comparisonId);
    const decoded = found.outcome === 'ready' ? found.decodedAudioId : null;
    if (decoded !== null) await replaceAudio(tx, takeId, take.audioId, decoded);
    const audioId = await keepContent(tx, decoded ?? take.audioId, found.sha256);
    const sound = found.outcome === 'ready' ? found.facts.soundSha256 : undefined;
    const twin =
      (await findByAudio(tx, comparisonId, audioId, take.channels, takeId)) ??
      (sound ? await findBySound(tx, comparisonId, sound, take.channels, takeId) : null);
    if (twin !== null) {
      const remark = `The same recording is here already as ${twin}; this copy was left out.`;
      await finishTake(tx, takeId, { state: 'duplicate', remark });
    } else if (found.outcome === 'refused') {
      await finishTake(tx, takeId, { state: 'refused', remark: found.reason });
    } else {
      const { facts, peaks } = found;
      await finishTake(tx, takeId, { state: 'ready', facts, peaks: Buffer.from(peaks) });
    }
    // Also after one that cannot be used: the others may have waited for it.
    if (take.programme === 'performance') await relateLater(tx, comparisonId, at);
    await announce(tx, comparisonId);
  });
}

/** What of a take is measured again, since an older version measured it in another way. */
export async function staleTake(after: string): Promise<TakeSource | null> {
  const stale = await findStale(db(), after);
  return stale && findTake(db(), stale.id);
}

/** Keeps what was measured again; remarks on the file stay as they were made when it arrived. */
export async function keepMeasuredAgain(
  take: TakeSource,
  { facts, peaks }: { facts: StoredFacts; peaks: Uint8Array },
): Promise<void> {
  const whole = { ...facts, warnings: take.facts?.warnings ?? facts.warnings };
  await transaction(async (tx) => {
    if (await replaceFacts(tx, take.id, whole, Buffer.from(peaks))) {
      await announce(tx, take.comparisonId);
    }
  });
}

/** A new comparison with the same question and chains, and with the takes of this one: for another panel. */
export async function copyWithTakes(engineer: SignedIn, id: string, at: Date): Promise<string> {
  const comparison = await comparisonOf(engineer, id);
  return transaction(async (tx) => {
    const { copy, chains } = await copyInto(tx, engineer, comparison, at);
    await copyTakes(tx, id, copy, chains);
    await layAlike(tx, id, copy);
    await relateLater(tx, copy, at);
    return copy;
  });
}

/** Has the takes set against each other once nothing is waiting to be checked. */
async function relateLater(tx: Tx, comparisonId: string, at: Date): Promise<void> {
  const open = await openJobs(tx, comparisonId);
  if (open.some(({ queue, state }) => queue === 'relate-takes' && state === 'waiting')) return;
  const label = 'takes against each other';
  await enqueue(tx, 'relate-takes', { comparisonId, subjectId: comparisonId, label }, at);
}

/** Takes of performances, with what is needed to set them against each other; null while some wait. */
export async function alignmentOrder(comparisonId: string): Promise<AlignmentOrder | null> {
  const takes = (await listTakes(db(), comparisonId)).filter(
    (take) => take.programme === 'performance' && take.chainId !== null,
  );
  if (takes.some(({ state }) => state === 'waiting')) return null;
  const reference = await referenceOf(db(), comparisonId);
  const sources = [];
  for (const { id, state } of takes) {
    const take = state === 'ready' ? await findTake(db(), id) : null;
    if (take) sources.push({ ...take, isReference: take.chainId === reference });
  }
  return { takes: sources };
}

export interface AlignmentOrder {
  takes: (TakeSource & { isReference: boolean })[];
}

/** Of takes that were recorded one after another, clips are made of those nearest to each other. */
async function chooseNearest(
  tx: Tx,
  comparisonId: string,
  all: readonly StoredTake[],
): Promise<void> {
  const played = performances(all);
  const recorded = (await repeatedTakes(tx, comparisonId)).filter(
    ({ id }) => !played.get(id)?.renderedFrom,
  );
  const takes = recorded.map(({ id, chainId, sourceId, peaks, facts }) => ({
    id,
    chain: chainId,
    sourceId,
    activeS: activeSeconds(peaks ?? [], PEAKS_PER_S),
    loudnessLufs: facts?.measurement.integratedLufs ?? null,
  }));
  const chosen = [...new Set(takes.map(({ sourceId }) => sourceId))].flatMap(
    (source) => nearestTakes(takes.filter(({ sourceId }) => sourceId === source))?.takeIds ?? [],
  );
  await setUsual(tx, comparisonId, 'nearest', chosen);
}

/** Where nobody chooses, clips are made of the performance that most chains recorded: nobody played twice in it. */
async function chooseForemost(
  tx: Tx,
  comparisonId: string,
  all: readonly StoredTake[],
): Promise<void> {
  await setUsual(tx, comparisonId, 'foremost', foremost(all));
}

export async function keepAlignments(
  comparisonId: string,
  alignments: { takeId: string; referenceAlignment: ReferenceAlignment | null }[],
): Promise<void> {
  await transaction(async (tx) => {
    for (const { takeId, referenceAlignment } of alignments)
      await updateReferenceAlignment(tx, takeId, referenceAlignment);
    const all = await listTakes(tx, comparisonId);
    await chooseNearest(tx, comparisonId, all);
    await chooseForemost(tx, comparisonId, all);
    await announce(tx, comparisonId);
  });
}

export async function archiveToUnpack(id: string): Promise<ArchiveSource | null> {
  const archive = await findArchive(db(), id);
  return archive?.state === 'waiting' ? archive : null;
}

/** What an archive held becomes takes, all together or none. */
export async function keepUnpacked(
  archive: ArchiveSource,
  files: readonly { audioId: number; fileName: string }[],
  remark: string | null,
  at: Date,
): Promise<void> {
  const { id, comparisonId, pattern, audioId } = archive;
  await transaction(async (tx) => {
    await lockTakes(tx, comparisonId);
    for (const file of files) await receiveTake(tx, { ...file, comparisonId, pattern }, at);
    if (remark === null) await deleteArchive(tx, id, audioId);
    else await finishArchive(tx, id, 'ready', remark);
    await announce(tx, comparisonId);
  });
}

export async function failArchive(tx: Tx, id: string, remark: string): Promise<void> {
  const archive = await findArchive(tx, id);
  if (archive?.state !== 'waiting') return;
  await finishArchive(tx, id, 'failed', remark);
  await announce(tx, archive.comparisonId);
}

export async function removeArchive(
  engineer: SignedIn,
  comparisonId: string,
  archiveId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    const archive = await findArchive(tx, archiveId);
    if (archive?.comparisonId !== comparisonId) throw notFound('archive');
    if (archive.state === 'waiting') {
      throw new UserError(409, 'This archive is being unpacked; wait until it is done.');
    }
    await deleteArchive(tx, archiveId, archive.audioId);
    await announce(tx, comparisonId);
  });
}

/** A recording that could not be checked after several attempts; its bytes are kept. */
export async function giveUpInspection(tx: Tx, takeId: string, at: Date): Promise<void> {
  const take = await findTake(tx, takeId);
  if (take?.state !== 'waiting') return;
  const remark = 'This file could not be checked. Remove it and drop it again.';
  await finishTake(tx, takeId, { state: 'refused', remark });
  if (take.programme === 'performance') await relateLater(tx, take.comparisonId, at);
  await announce(tx, take.comparisonId);
}

const UPLOADS_KEPT_MS = 7 * 24 * 3600 * 1000;

/** Drops uploads that nobody went on with for a week, and sound that work cut off left behind. */
export async function tidyUploads(at: Date): Promise<number> {
  const before = new Date(at.getTime() - UPLOADS_KEPT_MS);
  return transaction(async (tx) => {
    const dropped = await deleteStaleUploads(tx, before);
    await dropOrphans(tx, before);
    return dropped;
  });
}

async function keepContent(tx: Tx, audioId: number, sha256: string): Promise<number> {
  const [known] = await tx.rows<{ id: number }>(
    'SELECT id FROM audio WHERE sha256 = $1 AND id <> $2',
    [sha256, audioId],
  );
  if (known) await moveAudio(tx, audioId, known.id);
  return sealAudio(tx, audioId, sha256);
}
