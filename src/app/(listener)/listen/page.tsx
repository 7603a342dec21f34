import { CodePage } from '@/steps/listening/ui/CodePage';

export default function ListenByCodePage() {
  return <CodePage />;
}
