import path from 'node:path';
import { eq } from 'drizzle-orm';
import { readConfig } from './base/config';
import { connectDb } from './base/db';
import { users } from './team/tables';

// `npm run team -- codes-off <address>`: for somebody who has lost their authenticator app and every recovery code. Whoever
// can run this can read the whole database anyhow.
try {
  const [command, email = ''] = process.argv.slice(2);
  if (command !== 'codes-off') throw new Error('Say “codes-off” and the address of whoever has lost their authenticator app.');
  const { db, close } = connectDb(path.join(readConfig().dataDir, 'shop.sqlite'));
  try {
    const { changes } = db
      .update(users)
      .set({ twoFactorSecret: null, twoFactorSlot: null, recoveryCodes: null })
      .where(eq(users.email, email.trim().toLowerCase()))
      .run();
    if (changes === 0) throw new Error(`Nobody of the team has the address “${email}”.`);
    console.log(`${email} signs in with the password alone now.`);
  } finally {
    close();
  }
} catch (error) {
  console.error((error as Error).message);
  process.exit(2);
}
