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
