import { choicesOf } from '@/core/decision/finding';
import type {
  DecisionChain,
  DecisionView,
  EqualCost,
  WeighedPlace,
} from '@/steps/decision/service';
import { list as listed } from '@/core/statistics/words';
import { money } from '@/ui/format';

/** "at least 1,320 €" where some of it has no price. */
export function sumText(cents: number | null, { unpriced }: DecisionChain['facts']): string {
  if (cents === null) return '–';
  return unpriced.length > 0 ? `≥ ${money(cents)}` : money(cents);
}

/** "1,320 €", "1,320 to 1,500 €". */
const between = (from: number, to: number) =>
  to > from ? `${money(from).replace(' €', '')} to ${money(to)}` : money(from);

/** "41 of 60 dB", "66 dB, 6 dB short": what the usual level asks for of what there is. */
export function gainText({
  gainNeededDb,
  gainMostDb,
  shortDb,
}: Pick<DecisionChain['facts'], 'gainNeededDb' | 'gainMostDb' | 'shortDb'>): string {
  if (gainNeededDb === null) return '–';
  if (shortDb !== null && shortDb > 0) {
    return `${gainNeededDb.toFixed(0)} dB, ${shortDb.toFixed(0)} dB short`;
  }
  return gainMostDb === null
    ? `${gainNeededDb.toFixed(0)} dB`
    : `${gainNeededDb.toFixed(0)} of ${gainMostDb.toFixed(0)} dB`;
}

const rest = (names: readonly string[], how: string) =>
  names.length > 0 ? `, ${listed(names)} ${how}` : '';

/** What is to buy, used: as far as somebody sells it so. */
export function usedText({ forms }: Pick<DecisionChain['facts'], 'forms'>): string {
  if (!forms?.used) return '–';
  const { fromCents, toCents, atList } = forms.used;
  return `${between(fromCents, toCents)}${rest(atList, 'new')}`;
}

/** What is to buy, rented instead: as far as somebody rents it out. */
export function rentedText({ forms }: Pick<DecisionChain['facts'], 'forms'>): string {
  if (!forms?.rentDay) return '–';
  return `${money(forms.rentDay.cents)} a day${rest(forms.rentDay.without, 'not for rent')}`;
}

/** The name of a place at the head of a column. */
export const placeName = ({ place }: Pick<WeighedPlace, 'place'>) => place || 'heard blind';

/** "240 more minutes (12 listeners) would change this choice in 9 of 100 cases." */
export function forecastText(forecast: DecisionView['forecast']): string[] {
  if (forecast === 'impossible') {
    return ['Cannot be said: who is best has no size yet, so there is nothing to project.'];
  }
  if (!Array.isArray(forecast)) return [];
  return forecast.map(({ listeners, minutes, changed }) => {
    const more = `${minutes} more minutes (${listeners} listeners)`;
    if (changed === null) return `${more}: could not be worked out.`;
    const cases = changed < 0.005 ? 'fewer than 1' : Math.round(100 * changed);
    return `${more} would change this choice in ${cases} of 100 cases.`;
  });
}

const size = (amount: number, unit: 'choices' | 'points') =>
  unit === 'choices'
    ? `${amount < 0.5 ? 'under 1' : Math.round(amount)} in 100 choices`
    : `${amount < 0.1 ? 'under 0.1' : amount.toFixed(1)} points of the line`;

/** What is lost if the cheaper one is taken, and what that saves. */
export function regretText({ regret }: DecisionView): string | null {
  if (!regret) return null;
  const { instead, savedCents, ifRight, onAverage, unit } = regret;
  const goes = unit === 'choices' ? 'go the other way' : 'are lost';
  return `and the panel was right, ${size(ifRight, unit)} ${goes} against ${instead}. If it was wrong, nothing is lost; over its own scatter ${size(onAverage, unit)} on average. It saves ${money(savedCents)}.`;
}

/** What a step up in price buys. */
export function stepText({ from, to, gain, task, open }: DecisionView['steps'][number]): string {
  const liked =
    task === 'pair'
      ? `preferred in ${Math.round(100 / (1 + Math.exp(-gain)))} of 100`
      : `${gain.toFixed(1)} points of the line higher`;
  const doubt = open
    ? ' That it is better is not shown: the cheaper one may be the best as well.'
    : '';
  return `leads from ${from} to ${to}: ${liked}.${doubt}`;
}

type LinkLine = DecisionView['links'][number];

/** Liking per hundred or of a lead: choices in 100 of those nearly even, or points of the line. */
const liked = (strength: number, task: LinkLine['task']) =>
  task === 'pair' ? choicesOf(strength) : strength;
const signed = (size: number) => `${size < 0 ? '−' : ''}${Math.abs(size).toFixed(1)}`;

/** What a hundred more brought at a link, and over how many chains. */
export function linkText({ pairs, apartCents, perHundred, task }: LinkLine): string {
  const unit = task === 'pair' ? 'in 100 choices' : 'points of the line';
  const [value, from, to] = [perHundred.value, perHundred.from, perHundred.to].map((strength) =>
    signed(liked(strength, task)),
  );
  const [least, most] = apartCents.map((cents) => money(cents));
  const apart = least === most ? `${least} apart` : `${least} to ${most} apart`;
  const over =
    pairs === 1 ? `one pair of chains that differs` : `${pairs} pairs of chains that differ`;
  const doubt =
    perHundred.from <= 0 && perHundred.to >= 0 ? ' That it buys anything is not shown.' : '';
  return `brought ${value} ${unit} (95 %: ${from} to ${to}), over ${over} there alone, ${apart}.${doubt}`;
}

const VERDICTS: Record<EqualCost['verdict'], (chain: string) => string> = {
  preferred: (chain) => `${chain} is preferred`,
  'preferred but slight': (chain) => `${chain} is preferred, but by less than matters`,
  level: () => 'level, within what matters',
  undecided: () => 'which of the two is better is not shown',
};

/** Which of two that cost the same was preferred. */
export function equalCostText({ a, b, differenceCents, verdict, preferred }: EqualCost): string {
  const apart = differenceCents === 0 ? 'at one price' : `${money(differenceCents)} apart`;
  return `${a} and ${b}, ${apart}: ${VERDICTS[verdict](preferred ?? '')}.`;
}

/** How much of a lead is left once the other had the leader's tone. */
export function tonedText({ plain, target, lead, left }: DecisionView['toned'][number]): string {
  const [ahead, behind] = lead.value >= 0 ? [target, plain] : [plain, target];
  if (!left)
    return `${plain} was heard with the tone of ${target} as well; as neither of the two is shown to lead, nothing can be told of it.`;
  const hundred = (share: number) => signed(100 * share).replace(/\.\d$/, '');
  const figures = `${hundred(left.value)} % (95 %: ${hundred(left.from)} to ${hundred(left.to)})`;
  return `${ahead} leads ${behind}; once ${plain} had the tone of ${target}, ${figures} of that lead was left.${left.value < 1 ? ' The rest is what EQ can do here.' : ''}`;
}
