import { Archive } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatCount, formatTime } from '../base/format';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Heads } from '../ui/Heads';
import { Empty, Page, Panel, Waiting } from '../ui/Page';
import { useCards } from '../ui/useCards';
import { backupsApi } from './api';

const POLL_MS = 1500;
const megabytes = (bytes: number) => `${(bytes / 1_000_000).toFixed(1)} MB`;

/** The backups of the shop: made once a day, and whenever somebody wants one. */
export function BackupsPage() {
  const cards = useCards();
  const [isWaiting, setWaiting] = useState(false);
  const { data, error, refetch } = backupsApi.useBackupsQuery(undefined, { pollingInterval: isWaiting ? POLL_MS : 0 });
  const { data: shop } = shopApi.useShopQuery();
  const [backUp, { error: refused, isLoading }] = backupsApi.useBackUpMutation();
  if (!data || !shop) return <Waiting error={error} retry={refetch} />;
  const { timeZone } = shop.settings;
  const isMaking = data.isMaking || isLoading;
  if (isWaiting !== data.isMaking) setWaiting(data.isMaking);
  return (
    <Page
      title="Backups"
      narrow
      actions={
        <Button look="main" disabled={isMaking} onClick={() => void backUp()}>
          <Archive size={16} aria-hidden="true" /> {isMaking ? 'Backing up…' : 'Back up now'}
        </Button>
      }
    >
      <p className="text-soft mb-4">
        A backup is made once a day while the shop goes on selling. They are in <code className="wrap-anywhere">{data.folder}</code>. To restore one, stop Ruta
        and run <code>npm run backup -- restore</code>.
      </p>
      <FormProblem>{refused ? problemOf(refused).title : data.problem}</FormProblem>
      {data.backups.length === 0 ? (
        <Empty title="No backups yet">The first is made within a minute of the start. You can also make one now.</Empty>
      ) : (
        <Panel>
          <div className="overflow-x-auto">
            <table {...cards.table} className="w-full text-left figures" aria-label="Backups">
              <Heads cards={cards} names={['Made', { figures: 'Orders' }, { figures: 'Contacts' }, { figures: 'Files' }, { figures: 'Database' }]} />
              <tbody {...cards.group}>
                {data.backups.map((backup) => (
                  <tr {...cards.row} key={backup.name} className="border-t border-line">
                    <th scope="row" {...cards.rowHeader} className="py-1.5 pr-4 font-semibold">
                      {formatTime(backup.at, timeZone)}
                    </th>
                    <td {...cards.cell('Orders')} className="py-1.5 pr-4 text-right">
                      {formatCount(backup.orders)}
                    </td>
                    <td {...cards.cell('Contacts')} className="py-1.5 pr-4 text-right">
                      {formatCount(backup.contacts)}
                    </td>
                    <td {...cards.cell('Files')} className="py-1.5 pr-4 text-right">
                      {formatCount(backup.files)}
                    </td>
                    <td {...cards.cell('Database')} className="py-1.5 text-right">
                      {megabytes(backup.bytes)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Panel>
      )}
    </Page>
  );
}
