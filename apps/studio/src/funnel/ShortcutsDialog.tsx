import { Modal } from '../ui/Modal';
import { SingleKeysField } from '../ui/SingleKeysField';

const SHORTCUTS = [
  ['[ and ]', 'Previous and next stop'],
  ['m', 'Map'],
  ['p', 'Page'],
  ['r', 'Results'],
  ['o', 'Offer: what a stop sells'],
  ['Ctrl K or /', 'Find anything'],
  ['Ctrl Z', 'Undo, on the page, the map and in the offer'],
  ['Ctrl Shift Z', 'Redo there'],
  ['Alt ↑ and Alt ↓', 'Move what is selected'],
  ['Ctrl D', 'Duplicate what is selected'],
  ['Ctrl or Shift and a click', 'Choose several parts of a page'],
  ['Ctrl C and Ctrl V', 'Copy parts of a page, and put them on this or any other page'],
  ['Delete', 'Delete what is selected'],
  ['Enter', 'Edit the words of what is selected; on the map, open the stop'],
  ['← → ↑ ↓', 'On the map, walk along the routes'],
  ['+', 'On the map, put a stop behind the one you are at'],
  ['Esc', 'Out of the words, then select the section around, then nothing'],
];

export function ShortcutsDialog({ onClose }: { onClose: () => void }) {
  return (
    <Modal open onClose={onClose} title="Keys that work here">
      <dl className="grid grid-cols-[9rem_1fr] gap-y-2">
        {SHORTCUTS.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt className="font-mono font-semibold">{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 border-t border-line pt-3">
        <SingleKeysField />
      </div>
    </Modal>
  );
}
