/** What is written into the log, and how it reads after a name. */
export const ACTIONS = {
  'sign-in': 'signed in',
  password: 'changed the password',
  invitation: 'invited somebody',
  'invitation withdrawn': 'withdrew an invitation',
  joined: 'made an account from an invitation',
  'access ended': 'ended somebody’s access',
  'access given': 'gave somebody access again',
  'comparisons shown': 'changed which comparisons somebody sees',
  sealed: 'sealed and opened a sitting',
  'seal broken': 'broke a seal',
  closed: 'closed a sitting',
  'heard by name': 'listened by name while a sitting was open',
  forgotten: 'let a person be forgotten',
  'pack key': 'opened the key of a blind pack',
  exported: 'took out results',
  'results brought in': 'brought in results of another program',
  'comparison brought in': 'began to bring in a comparison from an archive',
  decided: 'locked a decision',
  'copy asked for': 'asked for a copy of the bank',
  'copies kept': 'changed how many copies are kept',
  'copy fetched': 'fetched a copy of the bank',
  'restore asked for': 'asked for a copy to be brought back',
  restored: 'brought back a backup',
} as const;
export type Action = keyof typeof ACTIONS;
export const ACTION_IDS = Object.keys(ACTIONS) as [Action, ...Action[]];
