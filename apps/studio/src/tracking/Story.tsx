import type { StoryEntry } from '@ruta/core/tracking';
import { formatTime } from '../base/format';

/** What happened, in order, in plain words. */
export function Story({ story, timeZone }: { story: StoryEntry[]; timeZone: string }) {
  if (story.length === 0) return <p className="text-soft">Nothing was recorded.</p>;
  return (
    <ol className="relative border-l-4 border-go ml-2">
      {story.map((entry) => (
        <li key={`${entry.at}${entry.kind}${entry.words}`} className="relative pl-5 pb-3">
          <span className="absolute -left-[10px] top-1 size-4 rounded-full border-3 border-ink bg-white" aria-hidden="true" />
          <span className="font-semibold">{entry.words}</span>
          <span className="block text-soft figures">{formatTime(entry.at, timeZone)}</span>
        </li>
      ))}
    </ol>
  );
}
