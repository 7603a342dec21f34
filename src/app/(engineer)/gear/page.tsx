import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { gearOf } from '@/steps/gear/service';
import { GearScreen } from '@/steps/gear/ui/GearScreen';

export default async function GearPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  return <GearScreen name={engineer.name} gear={await gearOf(engineer)} />;
}
