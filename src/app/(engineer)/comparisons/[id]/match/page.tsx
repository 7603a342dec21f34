import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { matchOf } from '@/steps/match/service';
import { MatchScreen } from '@/steps/match/ui/MatchScreen';
import { packsOf } from '@/steps/match/pack';
import { overviewOf } from '@/steps/overview/service';
import { selfTestsOf } from '@/steps/self-test/service';
import { SelfTestPanel } from '@/steps/self-test/ui/SelfTestPanel';
import { guardedOf } from '@/steps/sitting/service';
import { PackAnswers } from '@/steps/sitting/ui/PackAnswers';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';

type Props = ComparisonParams & { searchParams: Promise<{ passage?: string; clips?: string }> };

export default async function Page(props: Props) {
  const { passage, clips } = await props.searchParams;
  const wanted = (text: string | undefined) => z.uuid().safeParse(text).data;
  const { name, seen, overview, view, packs, guarded, tests } = await readPage(
    props,
    async (engineer, id) => ({
      overview: await overviewOf(engineer, id),
      view: await matchOf(engineer, id, { passageId: wanted(passage), clipSetId: wanted(clips) }),
      packs: await packsOf(engineer, id),
      guarded: await guardedOf(engineer, id),
      tests: await selfTestsOf(engineer, id),
    }),
  );
  const { clipSet } = view;
  const heard = view.clips.map(({ chainId }) => chainId);
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="match">
      <MatchScreen
        view={view}
        packs={packs}
        guarded={guarded.clipSetIds}
        work={overview.work}
        packAnswers={Object.fromEntries(
          packs.map(({ id, createdAt }) => [
            id,
            <PackAnswers
              key={id}
              comparisonId={view.comparison.id}
              packId={id}
              madeAt={createdAt}
            />,
          ]),
        )}
        testing={
          clipSet &&
          heard.length > 1 && (
            <SelfTestPanel
              comparisonId={view.comparison.id}
              clipSetId={clipSet.id}
              chains={view.chains.filter(({ id }) => heard.includes(id))}
              asked={guarded.clipSetIds.includes(clipSet.id)}
              view={tests}
            />
          )
        }
      />
    </ComparisonFrame>
  );
}
