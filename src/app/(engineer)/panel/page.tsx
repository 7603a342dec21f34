import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { panelOf } from '@/steps/panel/service';
import { PanelScreen } from '@/steps/panel/ui/PanelScreen';

export default async function PanelPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  return <PanelScreen name={engineer.name} panel={await panelOf(engineer)} />;
}
