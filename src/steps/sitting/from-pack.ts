import { type GatheredAnswers, gatherPackAnswers } from '@/core/statistics/pack-answers';
import { type Db, db, transaction } from '@/platform/database';
import { UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { packOf } from '@/steps/match/pack';
import { markPackOpened, type StoredPack } from '@/steps/match/pack-store';
import { aliasKey } from './alias';
import { type Elsewhere, keepElsewhere, MOST } from './answered-elsewhere';
import type { PackPreview, PackSheets } from './schema';
import { orderAnalysis } from './service';
import { openSittingsOver, sittingsOfPack } from './store';

type Answer = GatheredAnswers['answers'][number];

/** Answers of each listener, in the order of the sheets. */
function byListener(answers: readonly Answer[]): { name: string; own: Answer[] }[] {
  const all = new Map<string, { name: string; own: Answer[] }>();
  for (const answer of answers) {
    const key = aliasKey(answer.listener);
    const known = all.get(key);
    if (known) known.own.push(answer);
    else all.set(key, { name: answer.listener, own: [answer] });
  }
  return [...all.values()];
}

/** What a sitting cannot hold, each with the row that asks for it. */
function tooMuch(listeners: ReturnType<typeof byListener>): PackPreview['faults'] {
  const faults = [];
  for (const { name, own } of listeners) {
    const { sheet, row } = own[0]!;
    if (name.length > MOST.name) {
      const message = `row ${row}: the name has ${name.length} signs; ${MOST.name} is the most`;
      faults.push({ sheet, message });
    }
    if (own.length > MOST.trials) {
      const message = `${name} answered ${own.length} trials; ${MOST.trials} is the most`;
      faults.push({ sheet, message });
    }
    for (const { sheet, row, remark } of own) {
      if (remark.length <= MOST.remark) continue;
      const message = `row ${row}: the remark has ${remark.length} signs; ${MOST.remark} is the most`;
      faults.push({ sheet, message });
    }
  }
  if (listeners.length > MOST.listeners) {
    const message = `${listeners.length} listeners are in these sheets; a sitting holds ${MOST.listeners}`;
    faults.push({ sheet: listeners[MOST.listeners]!.own[0]!.sheet, message });
  }
  return faults;
}

/** Sheets with ids of chains in place of code words. */
function gathered(pack: StoredPack, { sheets }: PackSheets): GatheredAnswers {
  const chains = new Map(Object.entries(pack.words).map(([chainId, word]) => [word, chainId]));
  const files = sheets.map(({ name, text }) => ({ name, bytes: new TextEncoder().encode(text) }));
  return gatherPackAnswers(files, chains, aliasKey);
}

async function refuseWhileAsked(from: Db, comparisonId: string, clipSetId: string): Promise<void> {
  if ((await openSittingsOver(from, comparisonId, { clipSetId })).length === 0) return;
  throw new UserError(
    409,
    'A sitting of the panel over these clips is open, and importing ends with the names; close it first. The sheets stay as they are.',
  );
}

/**
 * Looks at the answers to a blind pack that came back in sheets, and imports them when asked to: as a closed sitting
 * of its own, never into another. Looking tells nothing of which word is which.
 * @throws UserError (409) while the panel is asked about the clips; (422) when faulty sheets are to be imported
 */
export async function importPackAnswers(
  engineer: SignedIn,
  comparisonId: string,
  packId: string,
  order: PackSheets,
  at: Date,
): Promise<{ preview: PackPreview; sittingId: string | null }> {
  const pack = await packOf(engineer, comparisonId, packId);
  await refuseWhileAsked(db(), comparisonId, pack.clipSetId);
  const found = gathered(pack, order);
  const listeners = byListener(found.answers);
  const preview: PackPreview = {
    listeners: listeners.map(({ name, own }) => ({ name, answers: own.length })),
    skipped: found.skipped,
    faults: [...found.faults, ...tooMuch(listeners)],
    before: (await sittingsOfPack(db(), comparisonId, packId)).map(({ title, at: then }) => ({
      title,
      at: then.toISOString(),
    })),
  };
  if (!order.apply) return { preview, sittingId: null };
  const { length } = preview.faults;
  if (length > 0) {
    throw new UserError(
      422,
      `${length === 1 ? 'One row' : `${length} rows`} cannot be read, so nothing was imported; correct the sheets and choose them again.`,
    );
  }
  if (listeners.length === 0) {
    throw new UserError(422, 'No row of these sheets has an answer, so nothing was imported.');
  }
  const sittingId = await transaction(async (tx) => {
    await refuseWhileAsked(tx, comparisonId, pack.clipSetId);
    const id = await keepElsewhere(tx, comparisonId, elsewhereOf(pack, order.title, listeners), at);
    await markPackOpened(tx, packId, at);
    await orderAnalysis(tx, comparisonId, id, at);
    await announce(tx, comparisonId);
    return id;
  });
  return { preview, sittingId };
}

/** The sheets as one part of pairs, in the orders that they tell. */
function elsewhereOf(
  pack: StoredPack,
  title: string,
  listeners: ReturnType<typeof byListener>,
): Elsewhere {
  const slot = (chainId: string) => ({ chainId, word: pack.words[chainId]! });
  return {
    title,
    from: { blindPackId: pack.id },
    begun: pack.createdAt,
    parts: [
      {
        task: 'pair',
        clipSetId: pack.clipSetId,
        prompt: pack.question,
        tiesAllowed: true,
        trials: Math.max(...listeners.map(({ own }) => own.length)),
        words: [],
      },
    ],
    listeners: listeners.map(({ name, own }) => ({
      name,
      trials: own.map(({ first, second, response, remark }) => ({
        part: 1,
        slots: [slot(first), slot(second)],
        right: null,
        answer: { choice: response },
        remark,
      })),
    })),
  };
}
