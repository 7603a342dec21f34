import { connection } from 'next/server';
import QRCode from 'qrcode';
import { nullWhenMissing } from '@/platform/errors';
import { origin } from '@/platform/origin';
import { viewForConductor } from '@/steps/listening/conductor';
import { readRoomDevice } from '@/steps/listening/seat-cookie';
import { linkToken } from '@/steps/listening/schema';
import { ConductorApp } from '@/steps/listening/ui/ConductorApp';
import { NoSitting } from '@/steps/listening/ui/Message';
import { Told } from '@/ui/language/Told';

/** The one page of whoever runs a room; also for the big screen. */
export default async function ConductPage({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const token = linkToken.safeParse((await params).token);
  const view = token.success
    ? await viewForConductor(token.data, await readRoomDevice()).catch(nullWhenMissing)
    : null;
  if (!token.success || !view) {
    return <NoSitting />;
  }
  const link = `${await origin()}/listen/${view.token}`;
  const svg = await QRCode.toString(link, { type: 'svg', margin: 1 });
  const qr = `data:image/svg+xml,${encodeURIComponent(svg)}`;
  return (
    <Told language="en" parts={['listening']}>
      <ConductorApp token={token.data} initial={view} link={link} qr={qr} />
    </Told>
  );
}
