import type { PictureInfo } from '@ruta/core/catalog';
import { ImagePlus } from 'lucide-react';
import { useState } from 'react';
import { type Problem, upload } from '../base/api';
import { useAppDispatch } from '../base/store';
import { Button } from '../ui/Button';
import { pictureAdded } from './editorSlice';

interface ChooserProps {
  label: string;
  fileId: string | null;
  onChoose: (fileId: string | null) => void;
  /** Where the picture is for something else than the page that is being edited. */
  onUploaded?: (picture: PictureInfo) => void;
}

/** Uploads a picture and shows the one that is there. */
export function PictureChooser({ label, fileId, onChoose, onUploaded }: ChooserProps) {
  const dispatch = useAppDispatch();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  async function receive(file: File | undefined) {
    if (!file) return;
    setBusy(true);
    setProblem('');
    try {
      const picture = await upload<PictureInfo>('pictures', file);
      if (onUploaded) onUploaded(picture);
      else dispatch(pictureAdded(picture));
      onChoose(picture.id);
    } catch (refusal) {
      setProblem((refusal as Problem).errors[0]?.message ?? (refusal as Problem).title);
    }
    setBusy(false);
  }
  return (
    <div>
      <p className="font-semibold mb-1">{label}</p>
      {fileId ? <img src={`/media/${fileId}/480.webp`} alt="" className="rounded-md border border-line mb-2 max-h-32 object-cover" /> : null}
      <div className="flex flex-wrap gap-2">
        <label className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3 min-h-9 font-semibold cursor-pointer hover:border-soft focus-within:outline-2 focus-within:outline-info">
          <ImagePlus size={16} aria-hidden="true" />
          {busy ? 'Uploading' : fileId ? 'Swap' : 'Choose a picture'}
          <input
            type="file"
            accept="image/*"
            className="sr-only"
            disabled={busy}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              void receive(file);
            }}
          />
        </label>
        {fileId ? (
          <Button look="quiet" onClick={() => onChoose(null)}>
            Take away
          </Button>
        ) : null}
      </div>
      {problem ? (
        <p role="alert" className="mt-1 text-stop font-semibold">
          {problem}
        </p>
      ) : null}
    </div>
  );
}
