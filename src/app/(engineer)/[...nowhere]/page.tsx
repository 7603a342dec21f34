import { notFound } from 'next/navigation';
import { connection } from 'next/server';

/** An address that leads nowhere; made at each request, so that its scripts carry the number of the answer. */
export default async function NowherePage() {
  await connection();
  notFound();
}
