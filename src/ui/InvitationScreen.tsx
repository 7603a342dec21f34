'use client';

import { CredentialsForm } from './CredentialsForm';
import { DoorSheet } from './DoorSheet';
import { HOUSE } from '@/platform/endpoints';
import type { InvitedRole } from '@/platform/sign-in/roles';
import { request } from './request';

const OFFERS = {
  engineer: 'You are asked to work on this studio’s comparisons as an engineer.',
  conductor: 'You are asked to run rooms. You will see no names of chains, so you stay blind.',
  reader: 'You are asked to read this studio’s results and reports. You will not change anything.',
} satisfies Record<InvitedRole, string>;

/** One more person makes their account; role null when the invitation cannot be used. */
export function InvitationScreen({
  token,
  role,
}: {
  token: string;
  role: keyof typeof OFFERS | null;
}) {
  if (!role) {
    return (
      <DoorSheet title="This invitation cannot be used">
        It was used, withdrawn or is older than a week. Ask the owner for another.
      </DoorSheet>
    );
  }
  return (
    <DoorSheet title="Come into this Zeitbank" lead={OFFERS[role]}>
      <CredentialsForm
        send={(given) => request(HOUSE.accept, {}, { ...given, token })}
        fresh
        action="Make my account"
      />
    </DoorSheet>
  );
}
