import { words } from '@ruta/core/elements';
import { buildSection, one, part, type SectionPlan, textPart } from '@ruta/core/sections';
import { thankYouPage } from '@ruta/core/templates';
import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import { Router } from 'express';
import { newId } from '../base/ids';
import { personAt } from '../base/limits';
import { buyerOf } from '../facts/who';
import { downloadPath, isWhole } from '../files/store';
import { type LiveServices, stepPath } from '../funnel/live';
import { findOrder, type OrderRow, wasPaid } from '../orders/store';
import { renderMessage } from '../site/renderMessage';
import { renderOwnPage } from '../site/renderStep';
import { showingsOf } from '../tracking/offerShowings';
import type { Tracked } from '../tracking/recorder';
import { countedVisitor, makeEvent } from '../tracking/visitor';
import { BegunDownloads } from './begunDownloads';
import { checkDownloadLink } from './links';
import { anyOrderByToken, orderByToken, sendNewLink } from './orderLink';
import { orderView } from './orderView';
import { findGrant } from './store';
import { grants } from './tables';

/** What buyers fetch and look up: files by signed addresses that end and hold so many times, and their order's own page. */
export function deliverySite(services: Tracked & LiveServices): Router {
  const router = Router();
  const { db, clock } = services;
  const begun = new BegunDownloads();

  router.get('/d/:grantId', (request, response, next) => {
    const { grantId } = request.params;
    const say = (status: number, title: string, message: string) =>
      response
        .status(status)
        .type('html')
        .send(renderMessage(services, title, message));
    const state = checkDownloadLink(services, grantId, String(request.query.until ?? ''), String(request.query.signature ?? ''));
    if (state === 'false') return say(404, 'This link is not complete', 'Open it again from your mail or your order page.');
    if (state === 'expired') return say(410, 'This link has ended', 'Open your order from the receipt mail: fresh links are there.');
    const file = findGrant(db, grantId);
    const order = file && findOrder(db, file.orderId);
    if (!file || !order || !wasPaid(order.state)) return say(404, 'This file is not here', 'Write to us and we will send it.');
    if (file.until !== null && file.until <= clock.now()) return say(410, 'The time for this file has ended', 'Write to us and we will open it again.');

    const stored = downloadPath(services, file.fileId);
    if (!isWhole(stored, file.bytes)) {
      services.log.error({ file: file.fileId, name: file.name, bytes: file.bytes }, 'a file that buyers fetch is missing or cut short on the disk');
      return say(503, 'This file cannot be fetched at the moment', 'It is not whole where we keep it. Write to us and we will send it; this did not count.');
    }
    const send = () =>
      response
        .set({ 'cache-control': 'private, no-store', 'x-content-type-options': 'nosniff' })
        .download(
          stored,
          order.mode === 'test' ? `TEST ${file.name}` : file.name,
          { headers: { 'content-type': file.contentType }, dotfiles: 'allow' },
          (error) => error && next(error),
        );
    // Who only asks what it is, or comes back for a further piece of what they have begun, fetches it no second time.
    const person = personAt(request.ip);
    if (request.method === 'HEAD' || (request.headers.range !== undefined && begun.has(grantId, person, clock.now()))) return send();

    // Counted in one statement, so that two fetches at once cannot both be the last allowed one.
    const counted = db
      .update(grants)
      .set({ downloads: sql`${grants.downloads} + 1` })
      .where(and(eq(grants.id, grantId), or(isNull(grants.maxDownloads), lt(grants.downloads, grants.maxDownloads))))
      .run();
    if (counted.changes === 0)
      return say(410, 'This file was fetched too often', `It can be fetched ${file.maxDownloads} times. Write to us and we will open it again.`);

    const visitor = countedVisitor(services, request);
    const thankYou = services.live.step(order.stepId, buyerOf(services, order))?.publication.snapshot.graph.steps.find((step) => step.kind === 'thank-you');
    const event = makeEvent(services, 'file.fetched', order.mode, visitor, {
      funnelId: order.funnelId,
      stepId: thankYou?.id ?? null,
      orderId: order.id,
      contactId: order.contactId,
      data: { file: file.name },
    });
    if (visitor) services.recorder.gather(event, visitor);
    else services.recorder.record(event);
    begun.note(grantId, person, clock.now());
    return send();
  });

  router.get('/order/:token', (request, response) => {
    const order = orderByToken(services, request.params.token);
    response.set('cache-control', 'private, no-store');
    if (!order) {
      const isEnded = anyOrderByToken(db, request.params.token) !== undefined;
      return response
        .status(isEnded ? 410 : 404)
        .type('html')
        .send(
          isEnded
            ? renderMessage(
                services,
                'This link has expired',
                'Your order and everything that came with it are still here. For your safety, links to an order expire after a while; we will email a new one to the address you ordered with.',
                { press: { words: 'Email me a new link', to: `/order/${request.params.token}/link` } },
              )
            : renderMessage(services, 'There is no order at this address', 'Check that the link from your email was copied in full.'),
        );
    }
    const page = thankYouPage({ name: `order ${order.number}`, pictureIds: [] }, (kind) => newId(clock, kind));
    const open = openOffer(services, order);
    const sections = open
      ? page.sections.toSpliced(
          2,
          0,
          buildSection(goOn(), (kind) => newId(clock, kind)),
        )
      : page.sections;
    const view = { ...orderView(services, order), ...(open ? { href: () => open } : {}) };
    return response.type('html').send(renderOwnPage(services, { ...page, sections, title: `Your order ${order.number}` }, view));
  });

  router.post('/order/:token/link', (request, response) => {
    const order = anyOrderByToken(db, request.params.token);
    const isSent = order !== undefined && sendNewLink(services, order);
    const [status, title, message] = !order
      ? [404, 'There is no order at this address', 'Check that the link from your email was copied in full.']
      : isSent
        ? [200, 'A new link is on its way', 'It goes to the email address you ordered with. Look into the spam folder if it is not there in a few minutes.']
        : [
            429,
            'No more links can be emailed today',
            'Several emails were sent to this address today already. Look for them, also in the spam folder, or write to us.',
          ];
    response
      .set('cache-control', 'private, no-store')
      .status(Number(status))
      .type('html')
      .send(renderMessage(services, String(title), String(message)));
  });
  return router;
}

/** Leads back to an offer that was left without an answer, from the mailed link as well. */
const goOn = (): SectionPlan => ({
  name: 'Left open',
  width: 'narrow',
  align: 'center',
  space: 'tight',
  columns: one(textPart('lead', words('You left something open.')), part('button', { words: words('Go on where you left off') })),
});

/** The address of an offer that the buyer of an order saw last and has not answered; undefined if there is none, or it is not live any more. */
function openOffer(services: Tracked & LiveServices, order: OrderRow): string | undefined {
  const left = [...showingsOf(services.db, order.id).values()].filter(
    ({ role, takenAt, declinedAt }) => role !== 'bump' && takenAt === null && declinedAt === null,
  );
  const live = left.length > 0 ? services.live.step(left.at(-1)?.stepId ?? '', buyerOf(services, order)) : undefined;
  return live && `${stepPath(live)}?order=${order.token}`;
}
