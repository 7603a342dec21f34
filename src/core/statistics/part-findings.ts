import { pText } from './pair/findings';
import type { PartAnalysis } from './part';

const ALPHA = 0.05;

function heard({ task, audibility }: PartAnalysis): string {
  const told = audibility.filter(({ pHolm }) => pHolm < ALPHA);
  if (audibility.length === 1) {
    const [{ a, b, correct, n, pHolm }] = audibility;
    const figures = `${correct} of ${n} right, ${pText(pHolm)}`;
    if (task === 'two-interval') {
      return told.length === 1
        ? `The one expected to have more was found to have it (${figures}).`
        : `It was not shown that the one expected to have more has it (${figures}).`;
    }
    return told.length === 1
      ? `${a} and ${b} can be told apart (${figures}).`
      : `It was not shown that ${a} and ${b} can be told apart (${figures}).`;
  }
  if (told.length === 0) return `None of ${audibility.length} pairs was shown to be told apart.`;
  return `${told.length} of ${audibility.length} pairs can be told apart.`;
}

function rated({ ratings }: PartAnalysis): string {
  if (!ratings || ratings.chains.length < 2) return 'There are too few ratings to compare.';
  const ranked = [...ratings.chains].sort((x, y) => y.mean - x.mean);
  const [best] = ranked;
  const last = ranked[ranked.length - 1];
  if (ratings.pF === null) return 'There are too few ratings to say whether any chain differs.';
  return ratings.pF < ALPHA
    ? `The chains differ (${pText(ratings.pF)}): ${best.chain} stands highest at ${best.mean.toFixed(0)} of 100, ${last.chain} lowest at ${last.mean.toFixed(0)}.`
    : `No difference between the chains was shown (${pText(ratings.pF)}).`;
}

function described({ words }: PartAnalysis): string {
  const told = words.filter(({ pHolm }) => pHolm !== null && pHolm < ALPHA);
  if (told.length === 0) return 'No word was shown to belong to one chain more than to another.';
  const texts = told.slice(0, 4).map(({ word, counts }) => {
    const [chain, count] = Object.entries(counts).sort((x, y) => y[1] - x[1])[0];
    return `“${word}” differs between the chains; most ticks for ${chain} (${count})`;
  });
  return `${texts.join('; ')}.`;
}

/** What a part says, in one sentence; the strongest claim that it supports and no more. */
export function partFinding(part: PartAnalysis): string {
  if (part.answers === 0) return 'Nobody answered.';
  switch (part.task) {
    case 'duo-trio':
    case 'triangle':
    case 'two-interval':
      return heard(part);
    case 'memory': {
      if (!part.memory) return 'Nobody answered.';
      const { correct, n, pOneSided } = part.memory;
      const figures = `${correct} of ${n} right, ${pText(pOneSided)}`;
      return pOneSided < ALPHA
        ? `The two are told apart from memory (${figures}).`
        : `It was not shown that the two are told apart from memory (${figures}).`;
    }
    case 'line':
    case 'reference':
      return rated(part);
    case 'words':
      return described(part);
    case 'pair':
      return part.pair ? '' : 'Only controls were answered.';
  }
}
