import { CODE_FILE_COLUMNS } from '@ruta/core/formats';
import { ImportDialog } from '../ui/ImportDialog';
import { codesApi } from './api';

/** Discount codes from a file: looked at first, then brought in whole. */
export default function CodeImport({ onClose }: { onClose: () => void }) {
  const [importCodes] = codesApi.useImportCodesMutation();
  return (
    <ImportDialog
      open
      onClose={onClose}
      title="Import discount codes"
      accept=".csv,text/csv"
      columns={CODE_FILE_COLUMNS}
      things="codes"
      run={(_name, text, apply, task) => importCodes({ text, apply, task }).unwrap()}
    />
  );
}
