import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { TASKS } from '@/core/tasks';
import { db } from '@/platform/database';
import type { Download } from '@/platform/download';
import { notFound, UserError } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import { freshSeed } from '@/platform/system-random';
import { threads } from '@/platform/threads';
import { levelOfCopy } from '@/steps/match/pack';
import { findClipSet } from '@/steps/match/store';
import { countWord, date, money } from '@/ui/format';
import type { Across } from '../across';
import { exploratoryText } from '../exploratory';
import { heardIn, sealedWords } from '../given-as';
import { headlineOf } from '../headline';
import { keyFile, type Result, type ResultPart, resultsOf } from '../service';
import { listSealedClips, partsOfSitting } from '../store';
import type { VerdictJob } from './job';
import type { VerdictFacts } from './VerdictPage';

/** Makes the file in a thread; tests make it where they are. */
type Makes = (job: VerdictJob) => Promise<string>;

const inThread: Makes = async (job) =>
  (await threads().run(job, { name: 'verdictFile' })) as string;

const playerScript = () =>
  readFile(
    path.join(process.env.ZEITBANK_ROOT ?? process.cwd(), 'dist/services/verdict-player.js'),
    'utf8',
  );

/** The part whose clips are tried: the primary one, else the first that the picture shows. */
const triedPart = (parts: readonly ResultPart[], { picture }: Across) =>
  parts.find(({ primary }) => primary)?.number ?? picture[0]?.part ?? 1;

/** The two chains that stood first where the part was heard; null where fewer stand anywhere. */
function foremost({ picture }: Across, part: number): [string, string] | null {
  const place = picture.find((one) => one.part === part) ?? picture[0];
  const [first, second] = (place?.chains ?? [])
    .flatMap(({ chain, value }) => (value === null ? [] : [{ chain, value }]))
    .sort((x, y) => y.value - x.value);
  return first && second ? [first.chain, second.chain] : null;
}

function factsOf(
  { title, question }: { title: string; question: string },
  result: Result,
  parts: readonly ResultPart[],
  across: Across,
  key: string,
): Omit<VerdictFacts, 'pair' | 'silent'> {
  const { answers } = across;
  const closed = date(result.closedAt);
  return {
    title: `${title} · ${result.title}`,
    closed,
    question,
    headline: headlineOf(parts),
    cautions: [
      ...(result.simulated
        ? ['The listeners of this sitting are simulated; nobody heard anything.']
        : []),
      ...(result.sealHolds
        ? []
        : ['The key does not give the number that was shown. Do not trust this result.']),
      ...(result.exploratory ? [exploratoryText(result.exploratory)] : []),
      ...(result.sealBroken
        ? [
            `The seal was broken before closing, ${date(result.sealBroken.at)}: “${result.sealBroken.reason}”.`,
          ]
        : []),
      ...(result.fromPack?.keyOutAt
        ? [`The key was handed out ${date(result.fromPack.keyOutAt)}, before the answers came in.`]
        : []),
      ...result.namedListening.map(
        ({ name, at }) => `${name} listened by name while the sitting was open, first ${date(at)}.`,
      ),
    ],
    answers: [
      { asked: 'Told apart?', ...answers.distinguishable },
      { asked: 'Liked, and where?', ...answers.liked },
      { asked: 'Worth its price?', ...answers.worth },
      ...(answers.nullHypothesis ? [{ asked: 'Null hypothesis', ...answers.nullHypothesis }] : []),
    ],
    picture: across.picture,
    limits: [...across.limits, ...result.heardAs],
    conditions: [
      `${countWord(result.listeners, 'listener')}, ${result.answers.toLocaleString('en-GB')} answers, ` +
        `${heardIn(result)}; blind under code words, closed ${closed}.`,
    ],
    chains: result.made.map(({ chain, microphone, preamp, price }) => {
      const made = [microphone, preamp].filter(Boolean).join(', ');
      return `${chain}${made && `: ${made}`}${price === null ? '' : `, ${money(price)}`}`;
    }),
    parts: parts.map(
      ({ task, prompt, heard, primary }) =>
        `${TASKS[task].name.replace(/\?$/, '')}: “${prompt}” ${heard}${primary ? ' (the primary part)' : ''}`,
    ),
    seal: result.seal,
    key,
    sealed: sealedWords(result),
    methods: result.analysisPlan,
  };
}

/**
 * A closed sitting as one file for whoever was not there: what was found and how far it goes, the key and its seal, and
 * the two chains that stood first, to be tried blind. It names no listener, and needs neither Zeitbank nor a network.
 * @throws UserError (409) while the answers are being read, and where nobody answered
 */
export async function verdictHtml(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  makes: Makes = inThread,
): Promise<Download> {
  const { comparison, result } = await resultsOf(engineer, comparisonId, sittingId);
  if (!result) throw notFound('closed sitting');
  const { parts, across } = result;
  if (!parts) throw new UserError(409, 'The answers are still being read; wait a moment.');
  if (!across) throw new UserError(409, 'Nobody answered, so there is no verdict to send.');
  const { body: key } = await keyFile(engineer, comparisonId, sittingId);
  const number = triedPart(parts, across);
  const pair = foremost(across, number);
  const clips = pair ? await clipsOf(sittingId, number, pair, result) : [];
  const facts: VerdictFacts = {
    ...factsOf(comparison, result, parts, across, key),
    pair: clips.length === 2 ? pair : null,
    silent: 'No two chains were set in an order here, so there is no pair to try.',
  };
  const body = await makes({ facts, clips, player: await playerScript() });
  return {
    fileName: `verdict-${sittingId.slice(0, 8)}.html`,
    contentType: 'text/html; charset=utf-8',
    body,
  };
}

/** The clips of both chains in a part, as they were sealed, with copies drawn anew. */
async function clipsOf(
  sittingId: string,
  number: number,
  pair: readonly [string, string],
  { chains, chainIds }: Result,
): Promise<VerdictJob['clips']> {
  const part = (await partsOfSitting(db(), sittingId)).find((one) => one.number === number);
  const set = part ? await findClipSet(db(), part.clipSetId) : null;
  if (!set) return [];
  const sealed = (await listSealedClips(db(), sittingId)).filter((clip) => clip.part === number);
  const trial = freshSeed();
  return pair.flatMap((name) => {
    const id = chainIds[chains.indexOf(name)];
    const clip = sealed.find(({ chainId }) => chainId === id);
    if (!clip) return [];
    const { audioId, details } = clip;
    return [{ audioId, seeds: { trial, clip: freshSeed() }, levelLufs: levelOfCopy(set, details) }];
  });
}
