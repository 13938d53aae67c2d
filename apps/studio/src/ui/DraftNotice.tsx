import { Button } from './Button';
import { Notice } from './Notice';

/** Says that what was typed earlier and never saved is back, and lets one start from what is saved. */
export function DraftNotice({ shown, onStartOver }: { shown: boolean; onStartOver: () => void }) {
  if (!shown) return null;
  return (
    <Notice tone="info" role="status" className="mb-4" actions={<Button onClick={onStartOver}>Start from what is saved</Button>}>
      What you typed here earlier and did not save is back.
    </Notice>
  );
}
