import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { gearQuery } from '@/steps/gear/schema';
import { gearListOf } from '@/steps/gear/service';
import { GearScreen } from '@/steps/gear/ui/GearScreen';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function GearPage({ searchParams }: Props) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = gearQuery.parse(await searchParams);
  return <GearScreen name={engineer.name} list={await gearListOf(engineer, query)} />;
}
