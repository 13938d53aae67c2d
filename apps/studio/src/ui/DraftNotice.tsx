import { Button } from './Button';

/** Says that what was typed earlier and never saved is back, and lets one start from what is saved. */
export function DraftNotice({ shown, onStartOver }: { shown: boolean; onStartOver: () => void }) {
  if (!shown) return null;
  return (
    <div role="status" className="flex flex-wrap items-center gap-3 rounded-md bg-way-tint px-4 py-2.5 mb-4">
      <span className="mr-auto">What you typed here earlier and did not save is back.</span>
      <Button onClick={onStartOver}>Start from what is saved</Button>
    </div>
  );
}
