/** Names by which other places call what we know a contact by, written small and without signs. */
const USUAL: Record<string, string> = {
  email: 'email',
  mail: 'email',
  emailaddress: 'email',
  youremail: 'email',
  firstname: 'firstName',
  fname: 'firstName',
  givenname: 'firstName',
  name: 'firstName',
  fullname: 'firstName',
  lastname: 'lastName',
  lname: 'lastName',
  surname: 'lastName',
  familyname: 'lastName',
};

const MOST_FIELDS = 40;
const LONGEST = 200;

const plain = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/** A field's key of ours out of a name of theirs: `Favourite colour?` → `favouriteColour`. */
export function keyFrom(name: string): string {
  const [first = '', ...rest] = name
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .split(/[\s_-]+/)
    .filter(Boolean);
  const key = (first.toLowerCase() + rest.map((word) => word.charAt(0).toUpperCase() + word.slice(1).toLowerCase()).join('')).replace(/^[^a-z]+/, '');
  return key.slice(0, 31) || 'field';
}

/**
 * Everything that was sent, flat: nested names joined by dots, lists by commas, and the list of name and values that
 * lead forms of ad platforms send, read by those names.
 */
export function flatten(sent: unknown, before = '', depth = 0): Record<string, string> {
  if (depth > 6 || sent === null || sent === undefined) return {};
  if (typeof sent !== 'object') return before ? { [before]: String(sent).slice(0, LONGEST) } : {};
  if (Array.isArray(sent)) {
    const named = sent.filter((each): each is { name: string; values?: unknown[]; value?: unknown } => typeof each?.name === 'string');
    if (named.length > 0) return Object.fromEntries(named.map(({ name, values, value }) => [name, String(values?.[0] ?? value ?? '').slice(0, LONGEST)]));
    return before
      ? {
          [before]: sent
            .filter((each) => typeof each !== 'object')
            .join(', ')
            .slice(0, LONGEST),
        }
      : {};
  }
  return Object.assign({}, ...Object.entries(sent).map(([name, value]) => flatten(value, before ? `${before}.${name}` : name, depth + 1)));
}

/** A lead from elsewhere as ours: the contact's own fields, and answers by key. */
export interface OutsideLead {
  email: string;
  firstName: string;
  lastName: string;
  answers: Array<{ field: string; label: string; value: string }>;
}

/**
 * Reads a lead from what another place sent.
 * @param fields which name of theirs is which field of ours; names that are not in it are known by how they are usually called
 */
export function readOutsideLead(sent: unknown, fields: Readonly<Record<string, string>>): OutsideLead {
  const lead: OutsideLead = { email: '', firstName: '', lastName: '', answers: [] };
  for (const [name, value] of Object.entries(flatten(sent)).slice(0, MOST_FIELDS)) {
    if (value.trim() === '' || name.startsWith('_')) continue;
    const last = name.split('.').at(-1) ?? name;
    const field = fields[name] ?? fields[last] ?? USUAL[plain(last)] ?? keyFrom(last);
    if (field === 'email' || field === 'firstName' || field === 'lastName') lead[field] ||= value.trim().slice(0, field === 'email' ? 254 : 80);
    else lead.answers.push({ field, label: last.slice(0, 120), value: value.trim() });
  }
  return lead;
}
