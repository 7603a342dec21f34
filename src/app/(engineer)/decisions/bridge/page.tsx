import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { bridgeOver } from '@/steps/memory/bridge';
import { bridgeQuery } from '@/steps/memory/schema';
import { BridgeScreen } from '@/steps/memory/ui/BridgeScreen';

export default async function BridgePage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const { through } = bridgeQuery.parse(await searchParams);
  return <BridgeScreen name={engineer.name} view={await bridgeOver(engineer, through)} />;
}
