'use client';

import { CredentialsForm } from './CredentialsForm';
import { DoorSheet } from './DoorSheet';
import { HOUSE } from '@/platform/endpoints';
import { request } from './request';

/** Sign-in; at the first start it makes the owner's account. */
export function SignInScreen({ firstStart }: { firstStart: boolean }) {
  return (
    <DoorSheet
      title={firstStart ? 'Open your Zeitbank' : 'Sign in to Zeitbank'}
      lead={
        firstStart
          ? 'You are the first here. Your name and a password make you its owner; listeners need neither.'
          : 'For engineers and conductors. Listeners use the link they were sent.'
      }
    >
      <CredentialsForm
        send={(given) => request(HOUSE.signIn, {}, given)}
        fresh={firstStart}
        owner={firstStart}
        action={firstStart ? 'Open' : 'Sign in'}
      />
    </DoorSheet>
  );
}
