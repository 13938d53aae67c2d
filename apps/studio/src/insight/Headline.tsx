import { MEASURES, type Measure, type Report } from '@ruta/core/reports';
import { changeLook, changeOf, figureWords } from './figures';

const SHOWN: Measure[] = ['perVisitor', 'visitors', 'leads', 'orders', 'averageOrder', 'revenue'];

/** The figures that say how a period went, with how they have changed. */
export function Headline({ report }: { report: Report }) {
  const { total, totalBefore, currency } = report;
  return (
    <dl aria-label="The period" className="grid grid-cols-2 sm:grid-cols-3 xl:grid-cols-6 rounded-md border border-line bg-white mb-3 overflow-hidden">
      {SHOWN.map((measure) => {
        const change = changeOf(total, totalBefore, measure);
        return (
          <div key={measure} className="border-line px-4 py-3 -ml-px -mt-px border-l border-t" title={MEASURES[measure].how}>
            <dt className="text-soft">{MEASURES[measure].name}</dt>
            <dd className="text-xl font-bold figures">
              {figureWords(total, measure, currency)}{' '}
              {change ? <span className={`text-sm font-semibold whitespace-nowrap ${changeLook(change, measure)}`}>{change.words}</span> : null}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
