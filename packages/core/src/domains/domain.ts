import { z } from 'zod';

const LABEL = /^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/;
const LONGEST = 253;

/** What was typed for a name: letters of any alphabet as the network writes them, without what stands before and behind it. */
function plainName(typed: string): string {
  const text = typed.trim().toLowerCase();
  try {
    // A whole address is often pasted; its name is what is meant.
    return new URL(text.includes('://') ? text : `http://${text}`).hostname.replace(/\.$/, '');
  } catch {
    return text;
  }
}

/** The name of a domain of the seller's own: `sky.example.test`. */
export const DomainNameSchema = z
  .string()
  .transform(plainName)
  .pipe(
    z
      .string()
      .max(LONGEST, 'This name is too long.')
      .refine((name) => name.split('.').length >= 2 && name.split('.').every((label) => LABEL.test(label)), 'Write a name such as shop.example.test.')
      .refine((name) => !/^[\d.]+$/.test(name), 'Write a name, not a number: names are what visitors see.'),
  );

export const RecordTypeSchema = z.enum(['TXT', 'CNAME', 'A']);
/** An entry to be made at whoever keeps the domain's names. */
export const DnsRecordSchema = z.object({ type: RecordTypeSchema, name: z.string(), value: z.string() });
export type DnsRecord = z.infer<typeof DnsRecordSchema>;

/** Where the public site is reached: by a name, or by an address of the network where it has no name. */
export type SiteTarget = { kind: 'name'; name: string } | { kind: 'address'; address: string };

const PROOF = '_ruta';

/** The name of the entry that proves whose domain it is. */
export const proofName = (host: string): string => `${PROOF}.${host}`;
export const proofValue = (token: string): string => `ruta-site=${token}`;

/** The entries that a domain needs: one that proves whose it is, and one that leads here. */
export function recordsFor(host: string, token: string, target: SiteTarget): DnsRecord[] {
  return [
    { type: 'TXT', name: proofName(host), value: proofValue(token) },
    target.kind === 'name' ? { type: 'CNAME', name: host, value: target.name } : { type: 'A', name: host, value: target.address },
  ];
}

/** What was found under a domain's name; null for a question that nobody answered. */
export interface FoundNames {
  proofs: string[] | null;
  addresses: string[] | null;
  /** Where the public site itself is found. */
  ours: string[] | null;
}

/** Why a domain does not lead here yet, in words that say how to mend it; nothing where it does. */
export function domainProblems(host: string, token: string, target: SiteTarget, found: FoundNames): string[] {
  if (found.proofs === null || found.addresses === null || found.ours === null)
    return ['The names could not be looked up just now. It is tried again by itself.'];
  const problems: string[] = [];
  const others = found.proofs.filter((text) => text !== proofValue(token));
  if (!found.proofs.includes(proofValue(token))) {
    problems.push(
      others.length > 0
        ? `The TXT entry of ${proofName(host)} says something else. Write it just as it stands here.`
        : `There is no TXT entry of ${proofName(host)} yet. A new one is seen after minutes, at some providers after a day.`,
    );
  }
  const leads = found.addresses.some((address) => found.ours?.includes(address));
  const where = target.kind === 'name' ? target.name : target.address;
  if (found.addresses.length === 0) problems.push(`${host} leads nowhere yet. Make the entry that leads to ${where}.`);
  else if (!leads) problems.push(`${host} leads to ${found.addresses[0]}, which is not here. Change its entry to ${where}.`);
  return problems;
}
