import Papa from 'papaparse';
import { FORMULA } from '@/core/text/formulae';
import { PROGRAM } from '@/core/version';
import { db } from '@/platform/database';
import type { Download } from '@/platform/download';
import { UserError } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import { chainsOf } from '@/steps/chains/service';
import { comparisonOf, sourcesSeen } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import { decisionsJson, marksCsv } from '@/steps/decision/files';
import { gearCsv } from '@/steps/gear/csv';
import { allGearOf } from '@/steps/gear/service';
import { analysisJson, answersCsv, answersJson, keyFile } from '@/steps/results/service';
import { listSittings } from '@/steps/sitting/store';
import { fileName, uniqueNames } from './names';
import { type ArchivedClip, type ArchivedTake, clipsToKeep, takesToKeep } from './store';

/** One file of the archive: a text, or sound as it lies in the bank. */
export type ArchivedFile = { name: string } & (
  { text: string } | { audioId: number; bytes: number }
);

export interface Archive {
  comparisonId: string;
  fileName: string;
  files: ArchivedFile[];
}

const OPEN =
  'A sitting of this comparison is open: its clips under the names of their chains would tell what the panel hears blind. Close it, then export. Nothing was written.';

const csvOf = (rows: readonly object[]) =>
  `${Papa.unparse(rows as object[], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
export const jsonOf = (value: unknown) => `${JSON.stringify(value, null, 1)}\n`;

function readMe(title: string, at: Date): string {
  return [
    `${title}`,
    '',
    `One comparison of a Zeitbank (${PROGRAM}), taken out on ${at.toISOString().slice(0, 10)}. Nothing else is needed to read it.`,
    '',
    'comparison.json   the question, its sources, passages and chains',
    'gear.csv          what the chains are made of',
    'takes.csv         the recordings; takes/ holds each as it arrived',
    'clips.csv         the matched clips: delay, polarity, gain, loudness; clips/ holds each as it was made',
    'sittings/         of each closed sitting: key.json exactly as it was sealed, all answers, the analysis',
    'decisions.json    every version of the decision, with the text that was hashed',
    'marks.csv         marks that were given with open eyes',
    'bank/             the same row by row, for another Zeitbank: Import in its list of comparisons takes this zip as a',
    '                  whole. One JSON object a line, named as the bank names them; manifest.json says what sound is where',
    'SHA256SUMS        number of every file: sha256sum -c SHA256SUMS',
    '',
    'To check a seal: sha256sum key.json gives the number that listeners were shown. The key names the SHA-256 of every',
    'clip; sha256sum of a file in clips/ gives it. takes.csv and clips.csv hold the SHA-256 of every file beside them.',
    '',
  ].join('\r\n');
}

/** Sound under `folder/`, each file once, and the row that says what it is. */
function recordings(takes: readonly ArchivedTake[]): { files: ArchivedFile[]; rows: object[] } {
  const unique = uniqueNames();
  const names = new Map<number, string>();
  const files: ArchivedFile[] = [];
  const rows = takes.map((take) => {
    const { audioId, bytes, sha256 } = take;
    let name = names.get(audioId);
    if (name === undefined) {
      name = unique(fileName(take.fileName));
      names.set(audioId, name);
      files.push({ name: `takes/${name}`, audioId, bytes });
    }
    return {
      file: `takes/${name}`,
      // Several takes can be channels of one file; counted from 1.
      channels: take.channels?.map((channel) => channel + 1).join(' ') ?? '',
      chain: take.chain ?? '',
      source: take.source,
      programme: take.programme,
      detail: take.detail,
      simulated: take.simulated ? 'yes' : 'no',
      sha256,
    };
  });
  return { files, rows };
}

function matched(clips: readonly ArchivedClip[]): { files: ArchivedFile[]; rows: object[] } {
  const folders = new Map<string, string>();
  const uniqueFolder = uniqueNames();
  const unique = uniqueNames();
  const files: ArchivedFile[] = [];
  const rows = clips.map((clip) => {
    const { setId, source, passage, context, method } = clip;
    const folder =
      folders.get(setId) ?? uniqueFolder(fileName(`${source}, ${passage}, ${context}`));
    folders.set(setId, folder);
    const name = unique(`clips/${folder}/${fileName(clip.chain)}.wav`);
    files.push({ name, audioId: clip.audioId, bytes: clip.bytes });
    return {
      file: name,
      chain: clip.chain,
      'cut from': clip.fileName,
      source,
      passage,
      context,
      'matched by': method,
      'delay, samples': clip.delaySamples,
      'polarity turned': clip.polarityInverted ? 'yes' : 'no',
      'gain, dB': clip.gainDb,
      'loudness, LUFS': clip.afterLufs,
      'residual, LU': clip.residualLu,
      'true peak, dBTP': clip.truePeakDbtp,
      sha256: clip.sha256,
    };
  });
  return { files, rows };
}

async function sittingFiles(engineer: SignedIn, comparisonId: string): Promise<ArchivedFile[]> {
  const unique = uniqueNames();
  const files: ArchivedFile[] = [];
  for (const sitting of await listSittings(db(), comparisonId)) {
    if (sitting.state !== 'closed') continue;
    const folder = `sittings/${unique(fileName(sitting.title))}`;
    const made = {
      'key.json': await keyFile(engineer, comparisonId, sitting.id),
      'answers.csv': await answersCsv(engineer, comparisonId, sitting.id),
      'answers.json': await answersJson(engineer, comparisonId, sitting.id),
      'analysis.json': await analysisJson(engineer, comparisonId, sitting.id),
    } satisfies Record<string, Download>;
    for (const [name, { body }] of Object.entries(made)) {
      files.push({ name: `${folder}/${name}`, text: body });
    }
  }
  return files;
}

/**
 * One comparison as a folder that can be read without this program.
 * @throws UserError (409) while a sitting is open, or its answers are still being read
 */
export async function archiveOf(
  engineer: SignedIn,
  comparisonId: string,
  at: Date,
): Promise<Archive> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sittings = await listSittings(db(), comparisonId);
  if (sittings.some(({ state }) => state === 'open')) throw new UserError(409, OPEN);
  const chains = await chainsOf(engineer, comparisonId);
  const held = new Set(chains.flatMap(({ gear }) => gear.map(({ gearId }) => gearId)));
  const gear = (await allGearOf(engineer)).filter(({ id }) => held.has(id));
  const nameOf = (gearId: string) => gear.find(({ id }) => id === gearId)?.name ?? '';
  const takes = recordings(await takesToKeep(db(), comparisonId));
  const clips = matched(await clipsToKeep(db(), comparisonId));
  const { title, question, brief } = comparison;
  const passages = await listPassages(db(), comparisonId);
  const whole = {
    format: 'zeitbank comparison 1',
    title,
    question,
    brief,
    sources: (await sourcesSeen(engineer, comparisonId)).map(({ name, capture, passages: of }) => ({
      name,
      capture,
      passages: of,
    })),
    passages: passages.map(({ sourceName, name, fromS, toS }) => ({
      source: sourceName,
      name,
      fromS,
      toS,
    })),
    chains: chains.map(({ name, items, priceCents, distanceM, angleDeg, shape, gear: own }) => ({
      name,
      items,
      priceCents,
      distanceM,
      angleDeg,
      shape: shape.kind,
      gear: own.map(({ gearId, settings }) => ({ name: nameOf(gearId), settings })),
    })),
  };
  return {
    comparisonId,
    fileName: `${fileName(title)}.zip`,
    files: [
      { name: 'README.txt', text: readMe(title, at) },
      { name: 'comparison.json', text: jsonOf(whole) },
      { name: 'gear.csv', text: gearCsv(gear) },
      { name: 'takes.csv', text: csvOf(takes.rows) },
      { name: 'clips.csv', text: csvOf(clips.rows) },
      { name: 'marks.csv', text: (await marksCsv(engineer, comparisonId)).body },
      { name: 'decisions.json', text: (await decisionsJson(engineer, comparisonId)).body },
      ...(await sittingFiles(engineer, comparisonId)),
      ...takes.files,
      ...clips.files,
    ],
  };
}
