import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { panelQuery } from '@/steps/panel/schema';
import { panelOf } from '@/steps/panel/service';
import { PanelScreen } from '@/steps/panel/ui/PanelScreen';

export default async function PanelPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = panelQuery.parse(await searchParams);
  return <PanelScreen name={engineer.name} panel={await panelOf(engineer, query)} />;
}
