import type { Operation } from '@ruta/core/page';
import { useState } from 'react';
import { useAppDispatch } from '../base/store';
import { BundleInput } from '../files/BundleInput';
import { pageApi } from './api';
import { pictureAdded } from './editorSlice';

const LINK = 'inline-flex items-center rounded-md border border-line bg-white px-3 min-h-9 font-semibold hover:border-soft';

/** The page out as open files, and in from one. */
export function PageFiles({ stepId, apply }: { stepId: string; apply: (operation: Operation) => void }) {
  const dispatch = useAppDispatch();
  const [takeIn] = pageApi.useImportPageMutation();
  const [missing, setMissing] = useState<string[] | null>(null);
  return (
    <section className="grid gap-3 border-t border-line pt-4">
      <h2>Out and in</h2>
      <p className="flex flex-wrap gap-2">
        <a href={`/api/steps/${stepId}/export/zip`} download className={LINK}>
          As HTML, in a ZIP
        </a>
        <a href={`/api/steps/${stepId}/export/json`} download className={LINK}>
          As one file
        </a>
      </p>
      <BundleInput
        label="Take in a page"
        take={async (content, task) => {
          const { page, pictures, missing: gone } = await takeIn({ content, task }).unwrap();
          for (const picture of Object.values(pictures)) dispatch(pictureAdded(picture));
          apply({ kind: 'replacePage', page });
          setMissing(gone);
        }}
      />
      {missing ? (
        <div role="status">
          <p>It stands here now; undo brings back what was here.</p>
          {missing.length > 0 ? (
            <ul className="list-disc pl-5">
              {missing.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          ) : null}
        </div>
      ) : null}
    </section>
  );
}
