import { connection } from 'next/server';
import { readingOnce } from '@/platform/database';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { earsQuery } from '@/steps/ears/schema';
import { earsOf } from '@/steps/ears/service';
import { EarsScreen } from '@/steps/ears/ui/EarsScreen';

export default async function TrainingPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = earsQuery.parse(await searchParams);
  return (
    <EarsScreen name={engineer.name} view={await readingOnce(() => earsOf(engineer, query))} />
  );
}
