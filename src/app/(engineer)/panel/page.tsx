import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { panelQuery } from '@/steps/panel/schema';
import { panelOf } from '@/steps/panel/service';
import { PanelScreen } from '@/steps/panel/ui/PanelScreen';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function PanelPage({ searchParams }: Props) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = panelQuery.parse(await searchParams);
  return <PanelScreen name={engineer.name} panel={await panelOf(engineer, query)} />;
}
