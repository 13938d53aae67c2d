// usage: tsx e2e/look.ts WIDTHxHEIGHT studio|site outdir steps...
import { writeFileSync } from 'node:fs';
import { Person } from './support/browser';

const [size = '1280x800', where = 'studio', out = '/tmp/shots', ...steps] = process.argv.slice(2);
const [width, height] = size.split('x').map(Number);
const base = where === 'studio' ? 'http://localhost:4600' : 'http://localhost:4601';
const p = await Person.arrive({ width, height });
const shoot = async (name?: string) => {
  if (!name) return;
  await new Promise((r) => setTimeout(r, 900));
  writeFileSync(`${out}/${name}.png`, await p.picture());
};
try {
  if (where === 'studio') {
    await p.open(base);
    await p.type('E-mail', 'ines@perigeelane.test');
    await p.type('Password', 'moonlight-demo');
    await p.click(await p.find('button[type=submit]'));
    await p.sees('Latest orders');
  }
  for (const step of steps) {
    const [kind, arg = '', name] = step.split('|');
    try {
      if (kind === 'go') {
        await p.open(arg.startsWith('http') ? arg : base + arg);
        await new Promise((r) => setTimeout(r, 1200));
      }
      if (kind === 'click') await p.click(await p.find(arg));
      if (kind === 'words') await p.click(arg);
      if (kind === 'js') console.log(JSON.stringify(await p.driver.executeScript(arg)));
      if (kind === 'keys') await p.driver.actions().sendKeys(arg).perform();
      if (kind === 'scroll') await p.driver.executeScript(`window.scrollTo(0, ${arg})`);
      if (kind === 'full') {
        const h = await p.driver.executeScript<number>('return document.documentElement.scrollHeight');
        await (p.driver as any).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
          width,
          height: Math.min(h, Number(arg) || 6000),
          deviceScaleFactor: 1,
          mobile: false,
        });
      }
      await shoot(name);
      if (kind === 'full')
        await (p.driver as any).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: width! < 500 });
    } catch (e) {
      console.log('FAILED', step, String(e).slice(0, 300));
    }
  }
} finally {
  await p.leave();
}
