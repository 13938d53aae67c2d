import { TriangleAlert } from 'lucide-react';
import { useAppDispatch } from '../base/store';
import { Button } from '../ui/Button';
import { type Version, versionChosen, versionShown } from './editorSlice';
import { unsavedPages } from './unsaved';

const VERSIONS: Array<{ version: Version; name: string }> = [
  { version: 'mine', name: 'Yours' },
  { version: 'theirs', name: 'The other one' },
];

/** Two versions of one page: look at either, then go on with one. The other stays one step back in the history. */
export function ConflictBar({ stepId, showing }: { stepId: string; showing: Version }) {
  const dispatch = useAppDispatch();
  return (
    <section aria-label="Two versions of this page" className="flex flex-wrap items-center gap-x-4 gap-y-2 px-5 py-2.5 bg-care-tint border-b border-care">
      <p role="alert" className="font-semibold flex gap-2.5">
        <TriangleAlert size={18} className="shrink-0 mt-0.5 text-care" aria-hidden="true" /> This page was changed in another window meanwhile. Both versions
        are here; nothing is lost.
      </p>
      <fieldset className="flex rounded-md border border-line bg-white p-0.5">
        <legend className="sr-only">Which version is shown</legend>
        {VERSIONS.map(({ version, name }) => (
          <button
            key={version}
            type="button"
            aria-pressed={showing === version}
            onClick={() => dispatch(versionShown(version))}
            className={`px-3 h-7 rounded-sm ${showing === version ? 'bg-ink text-white' : 'text-soft hover:bg-band'}`}
          >
            {name}
          </button>
        ))}
      </fieldset>
      <Button
        look="main"
        onClick={() => {
          dispatch(versionChosen(showing));
          // The server has theirs; what was set aside of this one is decided against, and one step back.
          if (showing === 'theirs') unsavedPages.forget(stepId);
        }}
      >
        {showing === 'mine' ? 'Go on with yours' : 'Go on with the other one'}
      </Button>
      <span className="text-soft">Undo brings the other back.</span>
    </section>
  );
}
