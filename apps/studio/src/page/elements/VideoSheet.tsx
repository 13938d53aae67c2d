import { VideoSourceSchema } from '@ruta/core/elements';
import { Film } from 'lucide-react';
import { useState } from 'react';
import { useUpload } from '../../files/useUpload';
import { TextField } from '../../ui/Field';
import { UploadButton } from '../../ui/UploadButton';
import { PictureChooser } from '../PictureChooser';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function VideoSheet({ element, change }: SheetProps<'video'>) {
  const { source } = element;
  const [address, setAddress] = useState(source?.kind === 'address' ? source.url : '');
  const { busy, problemWords, send } = useUpload<{ id: string; name: string }>('videos', ([video]) => {
    if (!video) return;
    setAddress('');
    change({ source: { kind: 'file', fileId: video.id, name: video.name } });
  });
  const typed = VideoSourceSchema.safeParse({ kind: 'address', url: address.trim() });
  return (
    <>
      <div>
        <p className="font-semibold mb-1">Video</p>
        {source?.kind === 'file' ? <p className="mb-1 wrap-anywhere">{source.name}</p> : null}
        <UploadButton
          label={source?.kind === 'file' ? 'Swap the file' : 'Choose a file'}
          accept="video/mp4,video/webm"
          busy={busy}
          icon={Film}
          onFiles={send}
        />
        {problemWords ? (
          <p role="alert" className="mt-1 text-stop font-semibold">
            {problemWords}
          </p>
        ) : null}
      </div>
      <TextField
        label="Or its address"
        type="url"
        placeholder="https://"
        hint="Of a video file, or of the page with its player. It loads when it is pressed."
        value={address}
        error={address.trim() !== '' && !typed.success ? 'This is not the address of a video: it begins with https://' : undefined}
        onChange={(event) => {
          setAddress(event.target.value);
          const next = VideoSourceSchema.safeParse({ kind: 'address', url: event.target.value.trim() });
          if (next.success) change({ source: next.data });
          else if (event.target.value.trim() === '' && source?.kind === 'address') change({ source: null });
        }}
      />
      <TextField
        label="What it is about"
        hint="Stands on it without a picture, and is read to people who cannot see it."
        maxLength={160}
        value={element.title}
        onChange={(event) => change({ title: event.target.value })}
      />
      <PictureChooser label="Picture before it plays" fileId={element.posterId} onChoose={(posterId) => change({ posterId })} />
      <Choice label="Shape" value={element.shape} choices={{ wide: 'Wide', square: 'Square', tall: 'Tall' }} onChange={(shape) => change({ shape })} />
    </>
  );
}
