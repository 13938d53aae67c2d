import { useState } from 'react';
import { Button } from './Button';

/** A piece of code to put somewhere else, with a button that copies it. */
export function CopyCode({ code, copied: words }: { code: string; copied: string }) {
  const [copied, setCopied] = useState<string | null>(null);
  return (
    <>
      <pre className="rounded-md bg-band px-3 py-2 font-mono text-sm whitespace-pre-wrap wrap-anywhere">{code}</pre>
      <p>
        <Button
          onClick={() =>
            navigator.clipboard.writeText(code).then(
              () => setCopied(code),
              () => setCopied(null),
            )
          }
        >
          Copy it
        </Button>{' '}
        <span role="status" className="text-soft">
          {copied === code ? words : ''}
        </span>
      </p>
    </>
  );
}
