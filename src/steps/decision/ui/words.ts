import type { DecisionChain, DecisionView, WeighedPlace } from '@/steps/decision/service';
import { money } from '@/ui/format';

/** "at least 1,320 €" where some of it has no price. */
export function sumText(cents: number | null, { unpriced }: DecisionChain['facts']): string {
  if (cents === null) return '–';
  return unpriced.length > 0 ? `≥ ${money(cents)}` : money(cents);
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
