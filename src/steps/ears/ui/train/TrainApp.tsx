'use client';

import { useEffect, useMemo, useState } from 'react';
import { useTranslations } from 'use-intl';
import { standingOf } from '@/core/ears/session';
import { skillOf } from '@/core/ears/skills';
import styles from '@/steps/listening/ui/listening.module.css';
import { Message } from '@/steps/listening/ui/Message';
import type { Training } from '../../schema';
import { BeginPage } from './BeginPage';
import { EarTrial, type Judged } from './EarTrial';
import { EarMaker } from './maker';
import { useTraining } from './useTraining';

/** Training of whoever is signed in, or of somebody of the panel by a link. */
export function TrainApp({ token, initial }: { token: string | null; initial: Training }) {
  const t = useTranslations('training');
  const trained = useTraining(token, initial);
  const { view, answers, settled, refresh } = trained;
  const { open } = view;
  const [judged, setJudged] = useState<Judged | null>(null);
  const id = open?.id ?? null;
  // A session never changes what it is made of.
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the id stands for the session
  const maker = useMemo(() => open && new EarMaker(open), [id]);
  useEffect(() => () => maker?.dispose(), [maker]);
  const skill = open && skillOf(open.skill);
  const plan =
    open && skill ? { skill, choices: open.choices, amount: open.amount, seed: open.seed } : null;
  const standing = plan && standingOf(plan, answers);
  const over = standing?.next === null && judged === null;
  useEffect(() => {
    if (over && settled) void refresh();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked once, when everything arrived
  }, [over, settled]);
  if (!plan || !standing || !maker) return <BeginPage trained={trained} own={token === null} />;
  if (over) {
    return (
      <Message title={t('over.heading')} brand={t('brand')}>
        <p role="status">{t('over.text')}</p>
        {trained.failure && (
          <>
            <p role="alert">{trained.failure}</p>
            <button className={styles.main} onClick={() => void refresh()}>
              {t('over.again')}
            </button>
          </>
        )}
      </Message>
    );
  }
  return (
    <EarTrial
      key={`${id} ${judged?.drawn.position ?? standing.next!.position}`}
      trained={trained}
      plan={plan}
      given={standing.given}
      drawn={judged?.drawn ?? standing.next!}
      judged={judged}
      maker={maker}
      onAnswer={(chosen, seconds) => {
        setJudged({ drawn: standing.next!, chosen });
        trained.answer({ chosen, seconds });
      }}
      onNext={() => setJudged(null)}
      onEnd={() => {
        setJudged(null);
        void trained.end();
      }}
    />
  );
}
