import { createTranslator } from 'use-intl/core';
import { amountAt } from '@/core/ears/axis';
import { MADE_SOUNDS } from '@/core/ears/made-sounds';
import { type Said, saidText } from '@/core/ears/outcome';
import { EARS_REASONS, type EarsReason, sizeText } from '@/core/ears/skill';
import { SKILLS, skillOf, toldSkill, usualChoices } from '@/core/ears/skills';
import { LANGUAGES, type Language } from '@/platform/language/languages';
import { messagesIn } from '@/platform/language/messages';
import { saidIn } from './said';

const LANGUAGE_IDS = Object.keys(LANGUAGES) as Language[];

function said(language: Language) {
  const t = createTranslator({
    locale: language,
    messages: messagesIn(language),
    namespace: 'training',
    onError: (error) => {
      throw error;
    },
  });
  return saidIn(t, language);
}

const counts = { right: 31, trials: 40 };
const OUTCOMES: Said[] = [
  { kind: 'tooFew', trials: 1 },
  { kind: 'tooFew', trials: 6 },
  { kind: 'heard', size: 1, needed: 9, ...counts },
  { kind: 'unheard', size: 1, needed: 9, ...counts },
  { kind: 'guessed', guessing: 13, ...counts },
  { kind: 'smallest', size: 0.1, ...counts },
  {
    kind: 'threshold',
    size: 0.77,
    low: { size: 0.1, beyond: true },
    high: { size: 1.17, beyond: false },
    ...counts,
  },
  {
    kind: 'threshold',
    size: 5,
    low: { size: 2, beyond: false },
    high: { size: 6, beyond: true },
    ...counts,
  },
];

describe('what is said of training', () => {
  it('is in English what the core says', () => {
    const english = said('en');
    for (const skill of SKILLS) {
      expect(english.label(skill)).toBe(skill.label);
      expect(english.hint(skill)).toBe(skill.hint);
      expect(english.skill(skill, usualChoices(skill))).toBe(toldSkill(skill, usualChoices(skill)));
      for (const [key, { label, words }] of Object.entries(skill.choices)) {
        expect(english.choice(skill, key)).toBe(label);
        for (const [value, word] of Object.entries(words)) {
          expect(english.way(skill, key, value)).toBe(word);
        }
      }
      for (const place of [0, 0.2, 0.5, 0.8, 1]) {
        const amount = amountAt(skill.axis, place);
        expect(english.size(skill, amount)).toBe(sizeText(skill, amount));
      }
      for (const one of OUTCOMES) expect(english.outcome(skill, one)).toBe(saidText(skill, one));
    }
    for (const [sound, words] of Object.entries(MADE_SOUNDS)) {
      expect(english.made(sound as keyof typeof MADE_SOUNDS)).toBe(words);
    }
    for (const [reason, sentence] of Object.entries(EARS_REASONS)) {
      expect(english.reason(reason as EarsReason)).toBe(sentence);
    }
  });

  it.each(LANGUAGE_IDS)('names every skill, choice and outcome apart in %s', (language) => {
    const own = said(language);
    const labels = SKILLS.map((skill) => own.label(skill));
    expect(new Set(labels).size).toBe(SKILLS.length);
    for (const skill of SKILLS) {
      for (const [key, { words }] of Object.entries(skill.choices)) {
        const ways = Object.keys(words).map((value) => own.way(skill, key, value));
        expect(new Set(ways).size).toBe(ways.length);
      }
      const told = OUTCOMES.map((one) => own.outcome(skill, one));
      expect(new Set(told).size).toBe(OUTCOMES.length);
    }
  });

  it('counts as the language does', () => {
    const [noise, level] = [skillOf('noise')!, skillOf('level')!];
    expect(said('de').size(noise, -52.34)).toBe('−52,3 dB zum Klang');
    expect(said('fr').size(level, 0.35)).toBe('0,35 dB');
    expect(said('de').outcome(level, OUTCOMES[6]!)).toBe(
      'In drei von vier Fällen gehört bei 0,77 dB (95 %: 0,10 dB oder weniger bis 1,2 dB; 31 von 40 richtig).',
    );
    expect(said('es').outcome(level, OUTCOMES[0]!)).toBe(
      'Terminado tras 1 respuesta, muy pocas para decir nada.',
    );
    expect(said('fr').among(level, 4, 0.5)).toBe(
      'La moitié de 4 autres du panel l’entend à 0,50 dB ou moins.',
    );
    expect(said('de').among(level, 4, null)).toContain('weniger als die Hälfte');
  });
});
