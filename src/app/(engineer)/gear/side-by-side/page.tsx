import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { sideBySideQuery } from '@/steps/gear/schema';
import { sideBySide } from '@/steps/gear/service';
import { SideBySideScreen } from '@/steps/gear/ui/SideBySideScreen';

export default async function SideBySidePage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const asked = sideBySideQuery.safeParse(await searchParams);
  const { items, names } = await sideBySide(engineer, asked.data?.ids ?? []);
  return <SideBySideScreen name={engineer.name} items={items} names={names} />;
}
