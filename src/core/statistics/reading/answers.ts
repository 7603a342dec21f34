import { type Claim, claimText, holds } from '../claims';
import { pairLeaders } from '../pair/findings';
import { ratingLeaders } from '../rating/findings';
import type { Results, SectionId } from '../results';
import { ALPHA, list, percent, pText } from '../words';
import type { Reading } from '.';
import type { Prediction } from './predictions';
import type { Interaction, Place } from './interactions';
import type { ReadTask } from './shared';

/** A part of a sitting, for what all of them say together. */
export interface AnsweredPart {
  number: number;
  primary: boolean;
  where: Place;
  /** What tells this place from the others of the sitting, in words; '' where there is but one. */
  place: string;
  /** The section that its finding comes from. */
  section: SectionId;
  /** Whether it asks what is liked, so that its strengths are likings. */
  liking: boolean;
  results: Results;
  claim: Claim;
  listeners: number;
}

/** One of the questions of the plan, answered: the strongest that may be claimed, and one number. */
export interface Answer {
  sentence: string;
  figure: string;
}

export interface NullVerdict extends Answer {
  verdict: 'rejected' | 'kept' | 'undecided';
}

/** How all parts together answer the questions that a plan asks. */
export interface Answers {
  /** Can they be told apart? */
  distinguishable: Answer;
  /** Which is preferred, and where? */
  liked: Answer;
  /** Is it worth the money? */
  worth: Answer;
  /** Null where the plan has none. */
  nullHypothesis: NullVerdict | null;
  /** What was written down beforehand, against what may be claimed. */
  predictions: Prediction[];
  /** The parts that what is liked in each place is read from, the primary one's place first. */
  places: AnsweredPart[];
}

export interface Questions {
  parts: readonly AnsweredPart[];
  across: Reading;
  /** Written down before anybody listened; null where nothing was, or it was not sealed. */
  nullHypothesis: string | null;
  /** So large a share of hearers matters; null where the plan names none. */
  maxDistinguishers: number | null;
  /** A price as it is written. */
  money: (price: number) => string;
}

const NONE = '–';
const NAMED_PAIRS = 2;
const hundred = (share: number) => `${Math.round(100 * share)} of 100`;

/** Of which task a part's strengths are. */
const taskOf = ({ section }: AnsweredPart): ReadTask => (section === 'pair' ? 'pair' : 'rating');

/** A pair of which right answers were asked. */
interface Asked {
  names: string;
  /** Answered from memory. */
  learned: boolean;
  correct: number;
  n: number;
  p: number;
  shown: boolean;
  /** False where the part has no verdict, as in a room whose places came out uneven: then no limit can be told either. */
  tested: boolean;
}

function askedOf({ section, results, claim }: AnsweredPart): Asked[] {
  if (section === 'recall' && results.recall) {
    const { correct, n, pOneSided } = results.recall;
    const names = 'the two that were learned by heart';
    return [
      {
        names,
        learned: true,
        correct,
        n,
        p: claim.p ?? pOneSided,
        shown: holds(claim),
        tested: claim.p !== null,
      },
    ];
  }
  if (section !== 'audibility') return [];
  return results.audibility.map(({ a, b, correct, n, pHolm }) => ({
    names: `${a} and ${b}`,
    learned: false,
    correct,
    n,
    p: Math.max(pHolm, claim.p ?? 1),
    shown: holds(claim) && pHolm < ALPHA,
    tested: claim.p !== null,
  }));
}

const countsOf = ({ correct, n, p }: Asked) => `${correct} of ${n} right, ${pText(p)}`;

/** What right answers say while nothing is shown to be told apart. */
interface Silent {
  names: string;
  /** So many may hear it all the same; null where only learned ones were asked. */
  most: number | null;
  /** Whether that is shown to be fewer than the limit of the plan. */
  within: boolean;
  figure: string;
}

function silentOf(asked: readonly Asked[], verdicts: Reading['verdicts']): Silent {
  const audibility = asked.every(({ tested }) => tested) ? verdicts.audibility : [];
  // From memory no limit can be told.
  const [first] = asked.filter(({ learned }) => !learned || audibility.length === 0) as [Asked];
  const clearest = asked.reduce((least, one) => (one.p < least.p ? one : least), first);
  const within =
    audibility.length > 0 &&
    audibility.every(({ verdict }) => verdict === 'no more than the limit');
  return {
    names: first.names,
    most:
      audibility.length > 0 ? Math.max(...audibility.map((one) => one.distinguishersUpper)) : null,
    within,
    figure: within ? `${first.correct} of ${first.n} right` : countsOf(clearest),
  };
}

function whetherDistinguishable({ parts, across }: Questions): Answer {
  const asked = parts.flatMap(askedOf);
  const shown = asked.filter((one) => one.shown).sort((x, y) => x.p - y.p);
  if (shown.length > 0) {
    const names = [...new Set(shown.map((one) => one.names))];
    const more = names.length - NAMED_PAIRS;
    const rest = more > 0 ? `; and ${more} more ${more === 1 ? 'pair' : 'pairs'}` : '';
    return {
      sentence: `Yes: ${names.slice(0, NAMED_PAIRS).join('; ')}${rest}.`,
      figure: countsOf(shown[0]!),
    };
  }
  if (asked.length > 0) {
    const { names, most, within, figure } = silentOf(asked, across.verdicts);
    if (most === null) return { sentence: 'Not shown.', figure };
    return {
      sentence: within
        ? `Hardly: ${names}, by at most ${hundred(most)} like these.`
        : `Not shown: ${names}; up to ${hundred(most)} like these may hear it.`,
      figure,
    };
  }
  const liked = parts.find(({ claim }) => holds(claim));
  return liked
    ? {
        sentence: 'Not asked by itself; but answers differ between the chains, so some are heard.',
        figure: claimText(liked.claim),
      }
    : { sentence: 'Not asked: no part of this sitting had right answers.', figure: NONE };
}

/** Which section of likings is told for a place where several were asked. */
const FIRST_TOLD: readonly SectionId[] = ['pair', 'rating', 'against'];

/** Of the parts that ask what is liked, one for each place: the primary one, else the task that tells most. */
export function placesOf(parts: readonly AnsweredPart[]): AnsweredPart[] {
  const rank = ({ primary, section, number }: AnsweredPart) =>
    (primary ? 0 : 1000) + 100 * (1 + FIRST_TOLD.indexOf(section)) + number;
  const places = new Map<string, AnsweredPart>();
  const liking = parts.filter((part) => part.liking).sort((x, y) => rank(x) - rank(y));
  for (const part of liking) {
    const { source, context } = part.where;
    const key = JSON.stringify([source, context, part.place]);
    if (!places.has(key)) places.set(key, part);
  }
  return [...places.values()];
}

/** Among whom the best is; none where nobody stands out, or nothing is claimed. */
export function leadersOf({ section, results, claim, listeners }: AnsweredPart): string[] {
  if (!holds(claim)) return [];
  const { pair, rating, against, best } = results;
  if (section === 'pair') return pair ? pairLeaders(pair, best.pair, listeners) : [];
  if (section === 'rating') return rating ? ratingLeaders(rating, best.rating) : [];
  return against.flatMap(({ chain, difference, pHolm }) =>
    difference > 0 && pHolm !== null && pHolm < ALPHA ? [chain] : [],
  );
}

/** What is liked in one place, as far as it is shown. */
function likedIn(part: AnsweredPart): string {
  if (!holds(part.claim)) return 'no preference shown';
  const leaders = leadersOf(part);
  if (part.section === 'against') {
    return leaders.length > 0
      ? `above the reference ${list(leaders)}`
      : 'the candidates differ from the reference, none is shown above it';
  }
  if (leaders.length === 0) return 'the chains differ, no single one leads';
  return leaders.length === 1 ? leaders.join('') : `the best is ${list(leaders, 'or')}`;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const same = (x: Place, y: Place) => x.source === y.source && x.context === y.context;

/** Of the tests between places that are told, the clearest. */
function turnsBetween(
  places: readonly AnsweredPart[],
  interactions: readonly Interaction[],
): Interaction | null {
  const told = interactions.filter(({ task, first, second, pHolm }) => {
    const of = places
      .filter((part) => taskOf(part) === task && part.claim.p !== null)
      .map(({ where }) => where);
    return (
      pHolm !== null &&
      of.some((where) => same(where, first)) &&
      of.some((where) => same(where, second))
    );
  });
  const turned = told.filter(({ topChanged }) => topChanged);
  const least = (rows: readonly Interaction[]) =>
    [...rows].sort((x, y) => (x.pHolm ?? 1) - (y.pHolm ?? 1))[0] ?? null;
  return least(turned.length > 0 ? turned : told);
}

function whatIsLiked({ across }: Questions, places: readonly AnsweredPart[]): Answer {
  const [first] = places;
  if (!first) {
    return { sentence: 'Not asked: no part of this sitting asked what is liked.', figure: NONE };
  }
  const figure = first.claim.p === null ? NONE : claimText(first.claim);
  if (places.length === 1) return { sentence: `${capital(likedIn(first))}.`, figure };
  const each = places.map((part) => `${capital(part.place)}: ${likedIn(part)}.`).join(' ');
  const turn = turnsBetween(places, across.interactions);
  // What lies beside the headlines is told only where the primary part lets others speak.
  if (!turn || !places.every(({ claim }) => claim.open)) return { sentence: each, figure };
  const { pHolm, topChanged } = turn;
  const shown = pHolm !== null && pHolm < ALPHA;
  if (!shown) return { sentence: `${each} That the order changes is not shown.`, figure };
  const said = topChanged ? 'The order turns' : 'Strengths move, the first place does not';
  return { sentence: `${each} ${said} (${pText(pHolm)}).`, figure };
}

/** Why prices cannot be set against strengths. */
function unvalued({ best, warnings }: Reading): string {
  const told = (wanted: string) =>
    warnings.some(({ section, code }) => section === 'value' && code === wanted);
  if (told('no-price')) return 'Cannot be said: the prices of some chains are missing.';
  if (told('not-defined') && !best.pair && !best.rating) {
    return 'Cannot be said: too few listeners, or somebody always won, so strengths have no size.';
  }
  return 'Cannot be said: no prices are written down.';
}

function worthItsPrice(
  { parts, across, money }: Questions,
  places: readonly AnsweredPart[],
): Answer {
  const { value, best } = across;
  const set = value && best[value.task];
  if (!value || !set) return { sentence: unvalued(across), figure: NONE };
  const byPrice = [...value.chains].sort((x, y) => x.price - y.price);
  const [least, most] = [byPrice[0]!, byPrice[byPrice.length - 1]!];
  const claimed = parts.some(
    (part) => part.liking && taskOf(part) === value.task && holds(part.claim),
  );
  if (!claimed) {
    return {
      sentence: 'No preference was shown, so nothing shows that paying more buys any.',
      figure: `${money(least.price)} / ${money(most.price)}`,
    };
  }
  const over = places.length > 1 ? ', over all places' : '';
  const open = byPrice.filter(({ chain }) => set.notShownWorse.includes(chain));
  const [cheapest, dearest] = [open[0], open[open.length - 1]];
  if (!cheapest || !dearest) {
    return {
      sentence: 'Cannot be said: the chains that may be the best have no price.',
      figure: `${money(least.price)} / ${money(most.price)}`,
    };
  }
  const figure = `${money(cheapest.price)} / ${money(dearest.price)}`;
  if (open.length > 1 && cheapest.price < dearest.price) {
    const part = percent(cheapest.price / dearest.price);
    const level = set.shownLevel?.includes(cheapest.chain);
    return {
      sentence: level
        ? `No: at ${part} of the price, ${cheapest.chain} is level with the best${over}.`
        : `Not shown: at ${part} of the price, ${cheapest.chain} is not shown worse${over}.`,
      figure,
    };
  }
  if (cheapest.price <= least.price) {
    const sentence = set.winner
      ? `It costs least of all: ${set.winner} is preferred${over}.`
      : `No: ${list(
          open.map(({ chain }) => chain),
          'or',
        )} may be the best${over}, and nothing costs less.`;
    return { sentence, figure: money(cheapest.price) };
  }
  const times =
    least.price > 0 ? ` at ${(cheapest.price / least.price).toFixed(1)} times` : ' above';
  return {
    sentence: `Preferred to all that cost less${over}: ${cheapest.chain},${times} the price of the cheapest.`,
    figure: `${money(cheapest.price)} / ${money(least.price)}`,
  };
}

/** Kept, rejected or undecided, by right answers where they were asked, else by what was liked. */
function nullVerdict(
  { parts, across, nullHypothesis, maxDistinguishers }: Questions,
  places: readonly AnsweredPart[],
): NullVerdict | null {
  if (!nullHypothesis) return null;
  const asked = parts.flatMap(askedOf);
  if (asked.length > 0) {
    const shown = asked.filter((one) => one.shown).sort((x, y) => x.p - y.p)[0];
    if (shown) {
      const sentence = `Rejected, by ${shown.names}: they are told apart.`;
      return { verdict: 'rejected', sentence, figure: countsOf(shown) };
    }
    const { most, within, figure } = silentOf(asked, across.verdicts);
    const would = maxDistinguishers === null ? null : `${hundred(maxDistinguishers)} would matter`;
    if (within && most !== null && would) {
      const sentence = `Kept: at most ${hundred(most)} like these hear it, and ${would}.`;
      return { verdict: 'kept', sentence, figure };
    }
    const upTo =
      most === null ? 'nothing was told apart' : `up to ${hundred(most)} like these may hear it`;
    const limit = would ? `, and ${would}` : '; the plan names no smallest difference';
    return { verdict: 'undecided', sentence: `Undecided: ${upTo}${limit}.`, figure };
  }
  const [first] = places;
  if (!first) return null;
  const figure = first.claim.p === null ? NONE : claimText(first.claim);
  if (holds(first.claim)) {
    return { verdict: 'rejected', sentence: 'Rejected: a preference was shown.', figure };
  }
  const own = across.verdicts.preference.filter(({ task }) => task === taskOf(first));
  if (own.length > 0 && own.every(({ verdict }) => verdict === 'level')) {
    const sentence = 'Kept: all chains are level within the smallest difference of the plan.';
    return { verdict: 'kept', sentence, figure };
  }
  const sentence =
    'Undecided: no preference was shown, and neither that all are level within the smallest difference of the plan.';
  return { verdict: 'undecided', sentence, figure };
}

/** A prediction is right or wrong only by what may be claimed. */
function judgedPredictions(
  { parts, across }: Questions,
  places: readonly AnsweredPart[],
): Prediction[] {
  const liked = places.some(({ claim }) => holds(claim));
  const asked = parts.flatMap(askedOf);
  return across.predictions.entries.map((entry) => {
    const { about, result } = entry;
    const claimed =
      about === 'winner'
        ? liked
        : result === 'no' || (asked.length > 0 ? asked.some(({ shown }) => shown) : liked);
    return claimed ? entry : { ...entry, result: null, outcome: 'open' };
  });
}

/** Puts all parts of a sitting into the answers that its plan asked for. */
export function answersOf(questions: Questions): Answers {
  const places = placesOf(questions.parts);
  return {
    distinguishable: whetherDistinguishable(questions),
    liked: whatIsLiked(questions, places),
    worth: worthItsPrice(questions, places),
    nullHypothesis: nullVerdict(questions, places),
    predictions: judgedPredictions(questions, places),
    places,
  };
}
