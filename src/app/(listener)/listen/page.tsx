import { connection } from 'next/server';
import { CodePage } from '@/steps/listening/ui/CodePage';

export default async function ListenByCodePage() {
  // Inline scripts of a page that was made beforehand could not carry the number of this answer.
  await connection();
  return <CodePage />;
}
