import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import { Router } from 'express';
import { downloadPath } from '../files/store';
import { findOrder, grantsOf } from '../sales/store';
import { grants } from '../sales/tables';
import type { Services } from '../services';
import { countedVisitor, makeEvent } from '../tracking/visitor';
import { checkDownloadLink } from './links';
import { renderMessage } from './renderStep';

/** Files that buyers fetch: by signed addresses that end, and so many times. */
export function downloadRoutes(services: Services): Router {
  const router = Router();
  const { db } = services;

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
    const grant = db.select({ orderId: grants.orderId }).from(grants).where(eq(grants.id, grantId)).get();
    const file = grant && grantsOf(db, [grant.orderId]).find((candidate) => candidate.id === grantId);
    const order = grant && findOrder(db, grant.orderId);
    if (!file || !order || order.state !== 'paid') return say(404, 'This file is not here', 'Write to us and we will send it.');

    if (file.until !== null && file.until <= services.clock.now())
      return say(410, 'The time for this file has ended', 'Write to us and we will open it again.');

    // Counted in one statement, so that two fetches at once cannot both be the last allowed one.
    const counted = db
      .update(grants)
      .set({ downloads: sql`${grants.downloads} + 1` })
      .where(and(eq(grants.id, grantId), or(isNull(grants.maxDownloads), lt(grants.downloads, grants.maxDownloads))))
      .run();
    if (counted.changes === 0)
      return say(410, 'This file was fetched too often', `It can be fetched ${file.maxDownloads} times. Write to us and we will open it again.`);

    const visitor = countedVisitor(services, request);
    const thankYou = services.publicPages.step(order.stepId)?.publication.snapshot.graph.steps.find((step) => step.kind === 'thank-you');
    const event = makeEvent(services, 'file.fetched', order.mode, visitor, {
      funnelId: order.funnelId,
      stepId: thankYou?.id ?? null,
      orderId: order.id,
      contactId: order.contactId,
      data: { file: file.name },
    });
    if (visitor) services.recorder.gather(event, visitor);
    else services.recorder.record(event);
    response.set({ 'cache-control': 'private, no-store', 'x-content-type-options': 'nosniff' });
    return response.download(
      downloadPath(services, file.fileId),
      file.name,
      { headers: { 'content-type': file.contentType }, dotfiles: 'allow' },
      (error) => error && next(error),
    );
  });

  return router;
}
