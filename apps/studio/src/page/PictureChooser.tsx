import type { PictureInfo } from '@ruta/core/catalog';
import { useAppDispatch } from '../base/store';
import { PictureField } from '../files/PictureField';
import { pictureAdded } from './editorSlice';

interface ChooserProps {
  label: string;
  fileId: string | null;
  onChoose: (fileId: string | null) => void;
  /** Where the picture is for something else than the page that is being edited. */
  onUploaded?: (picture: PictureInfo) => void;
}

/** A picture of the page that is being edited, which then knows how large it is. */
export function PictureChooser({ onUploaded, ...field }: ChooserProps) {
  const dispatch = useAppDispatch();
  return <PictureField {...field} onKnown={onUploaded ?? ((picture) => dispatch(pictureAdded(picture)))} />;
}
