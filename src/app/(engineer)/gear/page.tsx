import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { gearQuery } from '@/steps/gear/schema';
import { gearListOf } from '@/steps/gear/service';
import { GearScreen } from '@/steps/gear/ui/GearScreen';

export default async function GearPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = gearQuery.parse(await searchParams);
  return <GearScreen name={engineer.name} list={await gearListOf(engineer, query)} />;
}
