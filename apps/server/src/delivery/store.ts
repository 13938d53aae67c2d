import { eq, inArray } from 'drizzle-orm';
import type { Db } from '../base/db';
import { files } from '../files/tables';
import { orderLines } from '../orders/tables';
import { grants } from './tables';

/** Rights to fetch files that came with orders, with each file's name and the line it came from. */
export function grantsOf(db: Db, orderIds: readonly string[]) {
  return orderIds.length === 0
    ? []
    : withFiles(db)
        .where(inArray(grants.orderId, [...orderIds]))
        .all();
}

/** One right to fetch a file; undefined if there is none. */
export function findGrant(db: Db, id: string) {
  return withFiles(db).where(eq(grants.id, id)).get();
}

function withFiles(db: Db) {
  return db
    .select({
      id: grants.id,
      orderId: grants.orderId,
      fileId: files.id,
      name: files.name,
      bytes: files.bytes,
      contentType: files.contentType,
      from: orderLines.name,
      downloads: grants.downloads,
      maxDownloads: grants.maxDownloads,
      until: grants.until,
    })
    .from(grants)
    .innerJoin(files, eq(files.id, grants.fileId))
    .innerJoin(orderLines, eq(orderLines.id, grants.lineId))
    .$dynamic();
}
