import { type AskedConsent, CONSENT_CATEGORIES } from '@ruta/core/shop';

/** The question for consent as one page asks it. */
export interface ConsentQuestionView {
  settings: AskedConsent;
  /** Fingerprint of the wording: who answered another one is asked again. */
  wording: string;
  /** Where it can be read what is kept; empty where that is nowhere. */
  policyUrl: string;
}

const NAMES = { statistics: 'Statistics', marketing: 'Marketing' } as const;

/**
 * The question for consent. Its script shows it to whoever has not answered this wording; yes and no are the same two
 * presses away and look alike. Without script nothing runs that would need an answer.
 */
export function ConsentQuestion({ settings, wording, policyUrl }: ConsentQuestionView) {
  const asked = CONSENT_CATEGORIES.filter((category) => settings[category].isAsked);
  return (
    <aside className="consent" id="consent" data-wording={wording} aria-labelledby="consent-title" tabIndex={-1} hidden>
      <p className="consent-title" id="consent-title">
        {settings.title}
      </p>
      <p>
        {settings.text}{' '}
        {policyUrl ? (
          <a href={policyUrl} target="_blank" rel="noreferrer">
            Privacy policy
          </a>
        ) : null}
      </p>
      <div className="consent-choice" data-consent-choice hidden>
        {asked.map((category) => (
          <label key={category}>
            <input type="checkbox" name={category} />
            <span>
              <strong>{NAMES[category]}</strong> {settings[category].words}
              {category === 'marketing' && settings.told ? ` ${settings.told}` : null}
            </span>
          </label>
        ))}
      </div>
      <p className="consent-buttons">
        <button type="button" className="button button-quiet" data-consent="none">
          Only what is needed
        </button>
        <button type="button" className="button button-quiet" data-consent="all">
          Agree to all
        </button>
        <button type="button" className="button button-link" data-consent="choose" aria-expanded="false">
          Choose
        </button>
        <button type="button" className="button button-quiet" data-consent="chosen" hidden>
          Keep this choice
        </button>
      </p>
      <p role="alert" className="consent-problem" data-consent-problem />
    </aside>
  );
}

/** At the foot of every page, so that an answer can be changed as easily as it was given. */
export function ConsentAgain() {
  return (
    <p className="consent-again">
      <button type="button" className="button button-link" data-consent-again hidden>
        Privacy choices
      </button>
    </p>
  );
}

/** Its style; only pages that ask carry it. */
export const CONSENT_CSS = `
.consent{position:fixed;inset:auto 0 0;z-index:8;max-height:80vh;overflow:auto;background:var(--sheet);color:var(--ink);border-top:2px solid var(--ink);padding:16px 24px;font-size:.94rem;line-height:1.5}
.consent[hidden]{display:none}
.consent>*{max-width:var(--row);margin-inline:auto}
.consent-title{font-weight:700;font-size:1.06rem}
.consent-choice{display:grid;gap:8px;margin-top:10px}.consent-choice[hidden]{display:none}
.consent-choice label{display:flex;gap:10px;align-items:flex-start}.consent-choice input{width:20px;height:20px;flex:none;margin-top:2px}
.consent-buttons{display:flex;flex-wrap:wrap;gap:10px 12px;align-items:center;margin-top:12px}
.consent-buttons .button{padding:10px 18px;font-size:1rem}.consent-buttons .button-link{padding-inline:4px}.consent .button-link,.consent-again .button{background:none;border:0}.consent-buttons [hidden]{display:none}
.consent-problem:empty{display:none}
.consent-again{text-align:center;padding:0 24px 16px;font-size:.88rem}.consent-again .button{font-size:.88rem;color:inherit}
@media (max-width:600px){.consent{padding:12px 16px}.consent-buttons{align-items:stretch}.consent-buttons .button-quiet{flex:1 1 45%;padding:9px 10px}}`.replaceAll(
  '\n',
  '',
);
