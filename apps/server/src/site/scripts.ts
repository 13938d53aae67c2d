import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Config } from '../base/config';

const versions = new Map<string, string>();

/** The address of a page script, with its content's fingerprint so that it can be kept for ever. */
export function scriptUrl(config: Config, name: 'view' | 'consent' | 'pixel' | 'checkout' | 'offer' | 'page' | 'framed'): string {
  const file = path.join(config.assets.scripts, `${name}.js`);
  let version = versions.get(file);
  if (!version) {
    version = existsSync(file) ? createHash('sha256').update(readFileSync(file)).digest('base64url').slice(0, 10) : 'unbuilt';
    versions.set(file, version);
  }
  return `/assets/scripts/${name}.js?v=${version}`;
}
