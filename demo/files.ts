import { strToU8, zipSync } from 'fflate';
import PDFDocument from 'pdfkit';
import { litMoon, moonPhase } from './moon';

const DAY_MS = 24 * 60 * 60 * 1000;

function toBuffer(draw: (document: PDFKit.PDFDocument) => void): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const document = new PDFDocument({ size: 'A4', margin: 48 });
    const parts: Buffer[] = [];
    document.on('data', (part: Buffer) => parts.push(part));
    document.on('end', () => resolve(Buffer.concat(parts)));
    document.on('error', reject);
    draw(document);
    document.end();
  });
}

/** The printable calendar: every night of a month with its moon. */
export function moonMonthPdf(month: Date): Promise<Buffer> {
  return toBuffer((document) => {
    document.font('Times-Bold').fontSize(34).fillColor('#141B38').text('Moon Month');
    document
      .font('Times-Roman')
      .fontSize(15)
      .text(month.toLocaleDateString('en', { month: 'long', year: 'numeric', timeZone: 'UTC' }));
    const days = new Date(Date.UTC(month.getUTCFullYear(), month.getUTCMonth() + 1, 0)).getUTCDate();
    for (let day = 0; day < days; day++) {
      const x = 86 + (day % 7) * 70;
      const y = 190 + Math.floor(day / 7) * 104;
      document.circle(x, y, 24).fill('#D9D0B8');
      document.path(litMoon(moonPhase(month.getTime() + day * DAY_MS + DAY_MS * 0.9), x, y, 24)).fill('#E3A23A');
      document
        .fillColor('#141B38')
        .fontSize(12)
        .text(String(day + 1), x - 20, y + 32, { width: 40, align: 'center' });
    }
  });
}

/** The first week's pages of the course. */
export function firstLightPdf(): Promise<Buffer> {
  return toBuffer((document) => {
    document.font('Times-Bold').fontSize(30).fillColor('#141B38').text('First Light');
    document.font('Times-Roman').fontSize(16).text('Week one: let your eyes arrive').moveDown();
    document
      .fontSize(13)
      .text(
        'Go out twenty minutes before you mean to look. Sit. Cover every lamp you can. Count the stars inside your two open hands, held at arm’s length, every five minutes, and write the number down.',
        { lineGap: 4 },
      );
    document.moveDown().text('Minute 0: ______    Minute 5: ______    Minute 10: ______    Minute 15: ______    Minute 20: ______');
  });
}

/** A page with a title and lines below it: guides, plans, worksheets. */
export function pagePdf(title: string, lines: readonly string[]): Promise<Buffer> {
  return toBuffer((document) => {
    document.font('Times-Bold').fontSize(30).fillColor('#141B38').text(title).moveDown(0.5);
    document.font('Times-Roman').fontSize(14);
    for (const line of lines) document.text(line, { lineGap: 4 }).moveDown(0.6);
  });
}

/** A small electronic book (EPUB 3) with one chapter. */
export function guideEpub(title: string, lines: readonly string[]): Buffer {
  const chapter = `<?xml version="1.0" encoding="UTF-8"?><html xmlns="http://www.w3.org/1999/xhtml"><head><title>${title}</title></head><body><h1>${title}</h1>${lines.map((line) => `<p>${line}</p>`).join('')}</body></html>`;
  const nav = `<?xml version="1.0" encoding="UTF-8"?><html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"><head><title>${title}</title></head><body><nav epub:type="toc"><ol><li><a href="chapter.xhtml">${title}</a></li></ol></nav></body></html>`;
  const opf = `<?xml version="1.0" encoding="UTF-8"?><package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="id">perigee-lane-eclipse</dc:identifier><dc:title>${title}</dc:title><dc:language>en</dc:language><meta property="dcterms:modified">2026-01-01T00:00:00Z</meta></metadata><manifest><item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/><item id="chapter" href="chapter.xhtml" media-type="application/xhtml+xml"/></manifest><spine><itemref idref="chapter"/></spine></package>`;
  const container =
    '<?xml version="1.0"?><container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="content.opf" media-type="application/oebps-package+xml"/></rootfiles></container>';
  const zip = zipSync({
    // The format asks for this entry first and not packed.
    mimetype: [strToU8('application/epub+zip'), { level: 0 }],
    'META-INF/container.xml': strToU8(container),
    'content.opf': strToU8(opf),
    'nav.xhtml': strToU8(nav),
    'chapter.xhtml': strToU8(chapter),
  });
  return Buffer.from(zip);
}

const RATE = 8000;

/** A quiet bell as a WAV file: the sound that begins each lesson. */
export function bellWav(seconds = 3): Buffer {
  const samples = RATE * seconds;
  const wav = Buffer.alloc(44 + samples * 2);
  wav.write('RIFF', 0);
  wav.writeUInt32LE(36 + samples * 2, 4);
  wav.write('WAVEfmt ', 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(1, 22);
  wav.writeUInt32LE(RATE, 24);
  wav.writeUInt32LE(RATE * 2, 28);
  wav.writeUInt16LE(2, 32);
  wav.writeUInt16LE(16, 34);
  wav.write('data', 36);
  wav.writeUInt32LE(samples * 2, 40);
  for (let i = 0; i < samples; i++) {
    const at = i / RATE;
    wav.writeInt16LE(Math.round(9000 * Math.exp(-1.6 * at) * (Math.sin(2 * Math.PI * 440 * at) + 0.4 * Math.sin(2 * Math.PI * 1187 * at))), 44 + i * 2);
  }
  return wav;
}
