import { PRODUCT_FILE_COLUMNS } from '@ruta/core/formats';
import { ImportDialog } from '../ui/ImportDialog';
import { catalogApi } from './api';

/** Products from a file: looked at first, then brought in whole. */
export default function ProductImport({ onClose }: { onClose: () => void }) {
  const [importProducts] = catalogApi.useImportProductsMutation();
  return (
    <ImportDialog
      open
      onClose={onClose}
      title="Import products"
      accept=".csv,.json,text/csv,application/json"
      columns={PRODUCT_FILE_COLUMNS}
      things="products"
      more={
        <p className="mt-3 text-soft">
          One row is one price. Rows with the same product id are one product; a new product has no id. What is not in the file stays as it is. JSON files hold
          everything, pictures and bundles too; their schema is in docs/schemas.
        </p>
      }
      run={(name, text, apply, task) => importProducts({ format: name.toLowerCase().endsWith('.json') ? 'json' : 'csv', text, apply, task }).unwrap()}
    />
  );
}
