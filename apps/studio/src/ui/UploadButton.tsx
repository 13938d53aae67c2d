import { FileDown, ImagePlus } from 'lucide-react';
import type { ChangeEvent } from 'react';

/** A button that opens the computer's file chooser. */
export function UploadButton(props: {
  label: string;
  accept?: string;
  busy: boolean;
  picture?: boolean;
  several?: boolean;
  onChange: (event: ChangeEvent<HTMLInputElement>) => void;
}) {
  const Icon = props.picture ? ImagePlus : FileDown;
  return (
    <label className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3.5 min-h-9 font-semibold cursor-pointer hover:border-soft focus-within:outline-2 focus-within:outline-info w-fit">
      <Icon size={17} aria-hidden="true" />
      {props.busy ? 'Uploading' : props.label}
      <input type="file" className="sr-only" accept={props.accept} multiple={props.several} disabled={props.busy} onChange={props.onChange} />
    </label>
  );
}
