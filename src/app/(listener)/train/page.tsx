import type { Metadata } from 'next';
import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { traineeOfEngineer, trainingOf } from '@/steps/ears/service';
import { TrainApp } from '@/steps/ears/ui/train/TrainApp';
import { Told } from '@/ui/language/Told';

export const metadata: Metadata = { title: 'Zeitbank training' };

/** Training of whoever is signed in. */
export default async function TrainPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  const view = await trainingOf(traineeOfEngineer(engineer));
  return (
    <Told language="en" parts={['listening', 'training']}>
      <TrainApp token={null} initial={view} />
    </Told>
  );
}
