import { FileDown, type LucideIcon } from 'lucide-react';

/** A button that opens the computer's file chooser. While a file is on its way it says how far it is. */
export function UploadButton(props: {
  label: string;
  accept?: string;
  /** What is being done, in words; null while nothing is. */
  busy: string | null;
  icon?: LucideIcon;
  several?: boolean;
  onFiles: (files: File[]) => void;
}) {
  const { icon: Icon = FileDown, busy } = props;
  return (
    <label className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3.5 min-h-9 font-semibold cursor-pointer hover:border-soft focus-within:outline-2 focus-within:outline-info w-fit tabular-nums">
      <Icon size={17} aria-hidden="true" />
      {busy ?? props.label}
      <input
        type="file"
        className="sr-only"
        accept={props.accept}
        multiple={props.several}
        disabled={busy !== null}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          // The same file can be chosen again.
          event.target.value = '';
          if (files.length > 0) props.onFiles(files);
        }}
      />
    </label>
  );
}
