'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { CopiesView } from '@/platform/copies/service';
import type { BankCopy } from '@/platform/copies/store';
import type { Kept } from '@/platform/copies/keeping';
import { HOUSE } from '@/platform/endpoints';
import { DataTable } from './DataTable';
import { DecimalField } from './DecimalField';
import { day } from './format';
import { refreshIfThere } from './refreshIfThere';
import { RestoreDialog } from './RestoreDialog';
import { MarginNote, Note, PageHeading } from './Sheet';
import { StudioFrame } from './StudioFrame';
import { FACES, token } from './tokens';
import { useSend } from './useSend';

const LOOK_EVERY_MS = 3000;

const sizeOf = (bytes: number) =>
  bytes < 1e10 ? `${(bytes / 1e6).toFixed(0)} MB` : `${(bytes / 1e9).toFixed(0)} GB`;

function stateOf({ begunAt, madeAt, failed }: BankCopy): string {
  if (failed !== null) return `not possible: ${failed}`;
  if (madeAt !== null) return `as it was ${day(madeAt)}`;
  return begunAt === null ? 'waits' : 'is being made';
}

function trialOf({ testedAt, testFailed, restoreFailed }: BankCopy): string {
  if (restoreFailed !== null) return `wanted back, and not restored: ${restoreFailed}`;
  if (testedAt === null) return '';
  return testFailed === null ? `came back whole, ${day(testedAt)}` : testFailed;
}

function headingOf({ copies, warnings }: CopiesView): string {
  const made = copies.filter(({ madeAt }) => madeAt !== null);
  if (made.length === 0) return 'No copy of this bank yet';
  return warnings.length === 0
    ? 'The bank is copied, and copies come back'
    : 'The bank is copied; something is to be seen to';
}

function Copies({ view }: { view: CopiesView }) {
  const { send, busy } = useSend();
  const router = useRouter();
  const [wanted, setWanted] = useState<BankCopy | null>(null);
  const { copies, folder, freeBytes, warnings } = view;
  const underWay = copies.some(({ madeAt, failed }) => madeAt === null && failed === null);
  // The first one is tried out as soon as it is made.
  const tried = copies.every(({ madeAt }) => madeAt === null) || copies.some((one) => one.testedAt);
  const settled = !underWay && tried;
  useEffect(() => {
    if (settled) return;
    const timer = setInterval(() => void refreshIfThere(router), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [settled, router]);
  return (
    <>
      <PageHeading
        finding={headingOf(view)}
        aside="Each holds everything: sound, answers, seals, accounts; as it was in one moment, while people went on working."
        action={
          <Button
            variant="contained"
            disabled={busy || underWay || folder === null}
            onClick={() => void send(HOUSE.askForCopy, {}).then(() => router.refresh())}
          >
            {underWay ? 'Being made' : 'Back up now'}
          </Button>
        }
      />
      {warnings.map((warning) => (
        <Note key={warning} kind="caution">
          {warning}
        </Note>
      ))}
      {folder !== null && (
        <Typography sx={{ color: token('soft'), mt: 1 }}>
          They lie in{' '}
          <Box component="span" sx={{ fontFamily: FACES.mono, overflowWrap: 'anywhere' }}>
            {folder}
          </Box>
          {freeBytes !== null && `, where ${sizeOf(freeBytes)} are free`}.
        </Typography>
      )}
      {copies.length > 0 && (
        <DataTable
          label="Copies"
          sx={{ mt: 2 }}
          rows={copies}
          keyOf={({ id }) => id}
          columns={[
            { label: 'Copy', cell: stateOf, names: true },
            { label: 'Made', cell: ({ askedBy }) => (askedBy ? `for ${askedBy}` : 'by night') },
            {
              label: 'Size',
              cell: ({ bytes }) => (bytes === null ? '' : sizeOf(bytes)),
              right: true,
            },
            {
              label: 'Rows',
              cell: ({ rows }) => rows?.toLocaleString('en-GB') ?? '',
              right: true,
            },
            { label: 'Brought back for trial', cell: trialOf },
            {
              label: 'File',
              cell: ({ id, file, madeAt }) =>
                madeAt === null ? (
                  ''
                ) : (
                  <Link href={`/api/copies/${id}/file`} sx={{ fontFamily: FACES.mono }}>
                    {file}
                  </Link>
                ),
            },
            {
              label: 'Restore',
              cell: (copy) =>
                copy.madeAt === null ? (
                  ''
                ) : (
                  <Button
                    size="small"
                    aria-label={`Restore ${copy.file}`}
                    onClick={() => setWanted(copy)}
                  >
                    Restore
                  </Button>
                ),
            },
          ]}
        />
      )}
      {wanted && <RestoreDialog copy={wanted} onClose={() => setWanted(null)} />}
      {folder !== null && <Keeping kept={view.kept} />}
    </>
  );
}

const KEPT_FIELDS = [
  ['days', 'Days', 1, 60],
  ['weeks', 'Weeks', 0, 60],
  ['months', 'Months', 0, 120],
] as const;

/** How many of the nights' copies are kept. */
function Keeping({ kept }: { kept: Kept }) {
  const { send, busy } = useSend();
  const [draft, setDraft] = useState(kept);
  const changed = KEPT_FIELDS.some(([name]) => draft[name] !== kept[name]);
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4 }}>
        Settings
      </Typography>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '72ch' }}>
        Of the nights’ copies the newest of so many days, weeks and months are kept. Fewer than
        before: what is too many is deleted after the next night; what somebody asked for stays.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'flex-start', mt: 1.5 }}>
        {KEPT_FIELDS.map(([name, label, least, most]) => (
          <DecimalField
            key={name}
            label={label}
            value={draft[name]}
            least={least}
            most={most}
            decimals={0}
            onKeep={(value) => value !== null && setDraft({ ...draft, [name]: Math.round(value) })}
            size="small"
            sx={{ width: 110 }}
          />
        ))}
        <Button
          variant="outlined"
          disabled={busy || !changed}
          onClick={() => void send(HOUSE.keepCopies, {}, draft)}
        >
          Save
        </Button>
      </Box>
    </>
  );
}

/** Copies of the whole bank; view null for whoever is not the owner. */
export function CopiesScreen({ name, view }: { name: string; view: CopiesView | null }) {
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="By itself">
            Every night from three o’clock on, or as soon as the machine runs again.
            {view &&
              ` Kept are the newest of ${view.kept.days} days, ${view.kept.weeks} weeks and ${view.kept.months} months; what somebody asked for stays.`}
          </MarginNote>
          <MarginNote title="Tried out">
            Once a week the newest is brought back into a server of its own: every table’s rows are
            counted, every sound is held against its SHA-256.
          </MarginNote>
          <MarginNote title="Bringing one back">
            Here, by <i>Restore</i>: any copy that lies in the folder, also one that was put there
            by hand. Or with Zeitbank stopped: <Box component="code">./zeitbank restore FILE</Box>,
            into an empty bank or, with <Box component="code">--in-place</Box>, in place of the one
            that is there, which is kept aside.
          </MarginNote>
        </>
      }
    >
      {view ? (
        <Copies view={view} />
      ) : (
        <PageHeading
          finding="Only the owner sees to copies"
          aside="Ask whoever owns this Zeitbank."
        />
      )}
    </StudioFrame>
  );
}
