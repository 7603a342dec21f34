import { notFound } from 'next/navigation';
import { connection } from 'next/server';
import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';
import { type Asked, orNotFound } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { gearStory } from '@/steps/memory/service';
import { GearStoryScreen } from '@/steps/memory/ui/GearStoryScreen';

const storyQuery = listQueryOf(['newest']);

export default async function GearItemPage({
  params,
  searchParams,
}: Asked & { params: Promise<{ gearId: string }> }) {
  await connection();
  const engineer = await engineerOrSignIn();
  const id = z.uuid().safeParse((await params).gearId);
  if (!id.success) notFound();
  const { page } = storyQuery.parse(await searchParams);
  const story = await orNotFound(() => gearStory(engineer, id.data, page));
  return <GearStoryScreen name={engineer.name} story={story} />;
}
