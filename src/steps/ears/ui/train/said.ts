import { useMemo } from 'react';
import { useLocale, useTranslations } from 'use-intl';
import type { Said } from '@/core/ears/outcome';
import type { EarsReason, Figure, Skill } from '@/core/ears/skill';
import type { Language } from '@/platform/language/languages';
import type { Messages } from '@/platform/language/messages';

type Say = ReturnType<typeof useTranslations<'training'>>;
type SkillId = keyof Messages['training']['skills'];
type Made = keyof Messages['training']['made'];

/** Points part the names of lines. */
const wayKey = (value: string): string => value.replace('.', '_');

/** What is said of skills, sizes and outcomes in a language; of the core come the figures. */
export function saidIn(t: Say, language: Language) {
  const figure = ({ value, digits }: Figure) =>
    new Intl.NumberFormat(language, {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      useGrouping: false,
    })
      .format(value)
      .replace('-', '−');
  const label = ({ id }: Skill) => t(`skills.${id as SkillId}.label`);
  /** A line of a choice; which choices there are is the skill's own. */
  const choice = ({ id }: Skill, key: string, rest: string) =>
    t(`skills.${id}.choices.${key}.${rest}` as 'skills.band.choices.width.label');
  const size = (skill: Skill, amount: number) =>
    t(`skills.${skill.id as SkillId}.size`, { figure: figure(skill.figure(amount)) });
  return {
    label,
    hint: ({ id }: Skill) => t(`skills.${id as SkillId}.hint`),
    choice: (skill: Skill, key: string) => choice(skill, key, 'label'),
    way: (skill: Skill, key: string, value: string) => choice(skill, key, `words.${wayKey(value)}`),
    /** A skill with what was chosen. */
    skill: (skill: Skill, chosen: Readonly<Record<string, string>>) =>
      [
        label(skill),
        ...Object.keys(skill.choices).map((key) =>
          choice(skill, key, `words.${wayKey(chosen[key] ?? '')}`),
        ),
      ].join(', '),
    size,
    made: (made: Made) => t(`made.${made}`),
    reason: (reason: EarsReason) => t(`refused.${reason}`),
    outcome: (skill: Skill, said: Said): string => {
      if (said.kind === 'tooFew') return t('outcome.tooFew', { trials: said.trials });
      const { right, trials } = said;
      if (said.kind === 'guessed')
        return t('outcome.guessed', { right, trials, guessing: said.guessing });
      const counts = { right, trials, size: size(skill, said.size) };
      if (said.kind === 'smallest') return t('outcome.smallest', counts);
      if (said.kind !== 'threshold')
        return t(`outcome.${said.kind}`, { ...counts, needed: said.needed });
      const [low, high] = [size(skill, said.low.size), size(skill, said.high.size)];
      return t('outcome.threshold', {
        ...counts,
        low: said.low.beyond ? t('outcome.orLess', { size: low }) : low,
        high: said.high.beyond ? t('outcome.orMore', { size: high }) : high,
      });
    },
    among: (skill: Skill, people: number, amount: number | null) =>
      amount === null
        ? t('outcome.fewerThanHalf', { people })
        : t('outcome.half', { people, size: size(skill, amount) }),
  };
}

/** The lines of what is trained, and what is said of figures. */
export function useSaid() {
  const t = useTranslations('training');
  const language = useLocale();
  return useMemo(() => ({ t, said: saidIn(t, language) }), [t, language]);
}
