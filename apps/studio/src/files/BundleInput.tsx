import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { type Problem, problemOf } from '../base/api';
import { UnderWay } from '../ui/UnderWay';
import { UploadButton } from '../ui/UploadButton';
import { useTask } from '../ui/useTask';

interface BundleInputProps {
  label: string;
  /** Takes in what the file holds. @throws what the server refused it with */
  take: (content: unknown, task: string) => Promise<void>;
}

/** A file that holds a page or a funnel; what is wrong with it is said here, and nothing is changed by it. */
export function BundleInput({ label, take }: BundleInputProps) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const { id, run } = useTask();
  async function receive([file]: File[]) {
    if (!file) return;
    setBusy(true);
    setProblem('');
    try {
      const content: unknown = await file.text().then(JSON.parse);
      await run((task) => take(content, task), false);
    } catch (error) {
      const refused: Problem = problemOf(error);
      setProblem(error instanceof SyntaxError ? 'This file is no page or funnel of Ruta.' : (refused.errors[0]?.message ?? refused.title));
    }
    setBusy(false);
  }
  return (
    <div>
      <UploadButton label={label} accept="application/json,.json" busy={busy ? 'Taking it in' : null} icon={FileUp} onFiles={receive} />
      {busy && id ? (
        <div className="mt-2">
          <UnderWay task={id} />
        </div>
      ) : null}
      {problem ? (
        <p role="alert" className="mt-1 text-stop font-semibold">
          {problem}
        </p>
      ) : null}
    </div>
  );
}
