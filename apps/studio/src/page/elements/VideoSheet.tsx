import { VideoSourceSchema } from '@ruta/core/elements';
import { Film } from 'lucide-react';
import { useState } from 'react';
import { type Problem, upload } from '../../base/api';
import { TextField } from '../../ui/Field';
import { PictureChooser } from '../PictureChooser';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function VideoSheet({ element, change }: SheetProps<'video'>) {
  const { source } = element;
  const [address, setAddress] = useState(source?.kind === 'address' ? source.url : '');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const typed = VideoSourceSchema.safeParse({ kind: 'address', url: address.trim() });
  async function receive(file: File | undefined) {
    if (!file) return;
    setBusy(true);
    setProblem('');
    try {
      const { id, name } = await upload<{ id: string; name: string }>('videos', file);
      setAddress('');
      change({ source: { kind: 'file', fileId: id, name } });
    } catch (refusal) {
      setProblem((refusal as Problem).errors?.[0]?.message ?? (refusal as Problem).title);
    }
    setBusy(false);
  }
  return (
    <>
      <div>
        <p className="font-semibold mb-1">Video</p>
        {source?.kind === 'file' ? <p className="mb-1 wrap-anywhere">{source.name}</p> : null}
        <label className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3 min-h-9 font-semibold cursor-pointer hover:border-soft focus-within:outline-2 focus-within:outline-info">
          <Film size={16} aria-hidden="true" />
          {busy ? 'Uploading' : source?.kind === 'file' ? 'Swap the file' : 'Choose a file'}
          <input
            type="file"
            accept="video/mp4,video/webm"
            className="sr-only"
            disabled={busy}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              void receive(file);
            }}
          />
        </label>
        {problem ? (
          <p role="alert" className="mt-1 text-stop font-semibold">
            {problem}
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
