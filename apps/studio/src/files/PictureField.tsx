import type { PictureInfo } from '@ruta/core/catalog';
import { ImagePlus } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { Modal } from '../ui/Modal';
import { UploadButton } from '../ui/UploadButton';
import { filesApi } from './api';
import { useUpload } from './useUpload';

interface PictureFieldProps {
  label: string;
  fileId: string | null;
  onChoose: (fileId: string | null) => void;
  /** Tells of a picture before it is chosen, for those who have to know more than its id. */
  onKnown?: (picture: PictureInfo) => void;
}

/** Uploads a picture or takes one that was uploaded before, and shows the one that is there. */
export function PictureField({ label, fileId, onChoose, onKnown }: PictureFieldProps) {
  const { busy, problemWords, send } = useUpload<PictureInfo>('pictures', ([picture]) => {
    if (picture) take(picture);
  });
  const [isLooking, setLooking] = useState(false);
  const take = (picture: PictureInfo) => {
    onKnown?.(picture);
    onChoose(picture.id);
  };
  return (
    <div>
      <p className="font-semibold mb-1">{label}</p>
      {fileId ? <img src={`/media/${fileId}/480.webp`} alt="" className="rounded-md border border-line mb-2 max-h-32 object-cover" /> : null}
      <div className="flex flex-wrap gap-2">
        <UploadButton label={fileId ? 'Swap' : 'Choose a picture'} accept="image/*" busy={busy} icon={ImagePlus} onFiles={send} />
        <Button look="quiet" onClick={() => setLooking(true)}>
          Uploaded before
        </Button>
        {fileId ? (
          <Button look="quiet" onClick={() => onChoose(null)}>
            Take away
          </Button>
        ) : null}
      </div>
      {problemWords ? (
        <p role="alert" className="mt-1 text-stop font-semibold">
          {problemWords}
        </p>
      ) : null}
      {isLooking ? (
        <Uploaded
          onClose={() => setLooking(false)}
          onChoose={(picture) => {
            take(picture);
            setLooking(false);
          }}
        />
      ) : null}
    </div>
  );
}

/** Every picture that was uploaded, newest first. */
function Uploaded({ onClose, onChoose }: { onClose: () => void; onChoose: (picture: PictureInfo) => void }) {
  const { data, error } = filesApi.usePicturesQuery();
  return (
    <Modal open onClose={onClose} title="Pictures uploaded before" wide>
      {error ? <p role="alert">They could not be loaded. Try again in a moment.</p> : null}
      {data?.length === 0 ? <p className="text-soft">None yet. What you upload anywhere can be found here afterwards.</p> : null}
      <ul className="grid grid-cols-3 sm:grid-cols-5 gap-2">
        {data?.map((picture) => (
          <li key={picture.id}>
            <button
              type="button"
              onClick={() => onChoose(picture)}
              title={picture.name}
              className="block w-full rounded-md border border-line overflow-hidden text-left hover:border-ink"
            >
              <img src={`/media/${picture.id}/480.webp`} alt={picture.name} loading="lazy" className="w-full h-24 object-cover bg-band" />
              <span className="block px-2 py-1 text-sm truncate">{picture.name}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
