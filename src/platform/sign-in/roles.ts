/** What somebody with an account may do: all of a comparison's work, read what came of it, or run a room. */
export type Right = 'work' | 'read' | 'conduct';

interface RoleFacts {
  /** As it is offered to whoever invites. */
  offered: string;
  may: readonly Right[];
  /** Where somebody of this role is led. */
  home: string;
  /** Why what is not theirs is refused. */
  refusal: string;
}

/** Every role in one place: who is refused what, and where they are led, is asked here. */
export const ROLES = {
  owner: { offered: 'owner', may: ['work', 'read', 'conduct'], home: '/', refusal: '' },
  engineer: { offered: 'engineer', may: ['work', 'read', 'conduct'], home: '/', refusal: '' },
  conductor: {
    offered: 'conductor, stays blind',
    may: ['conduct'],
    home: '/rooms',
    refusal: 'A conductor stays blind: this names chains, so it is not for you.',
  },
  reader: {
    offered: 'reader, results and reports only',
    may: ['read'],
    home: '/reports',
    refusal: 'A reader has results and reports; ask an engineer for anything else.',
  },
} as const satisfies Record<string, RoleFacts>;
export type Role = keyof typeof ROLES;

export const mayDo = (role: Role, right: Right): boolean =>
  (ROLES[role].may as readonly Right[]).includes(right);

/** Whether it can be said which comparisons they see: the owner sees all, and a conductor none. */
export const canBeLimited = (role: Role): boolean => role !== 'owner' && mayDo(role, 'read');

/** Roles that somebody is invited to. */
export const INVITED = ['engineer', 'conductor', 'reader'] as const satisfies readonly Role[];
export type InvitedRole = (typeof INVITED)[number];

/** The one place of somebody who has no other. */
export type OnlyPlace = '/rooms' | '/reports';

export function onlyPlaceOf(role: Role): OnlyPlace | undefined {
  const { home } = ROLES[role];
  return home === '/' ? undefined : home;
}
