/** Languages that ship, each under its own name; the first is what all others fall back to. */
export const LANGUAGES = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español' } as const;
export type Language = keyof typeof LANGUAGES;

/** Remembers what somebody chose instead of the browser's own language. */
export const LANGUAGE_COOKIE = 'zeitbank-language';
