import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { PictureInfoSchema, UploadedFileSchema } from '@ruta/core/catalog';
import express, { type NextFunction, type Request, type RequestHandler, type Response, Router } from 'express';
import multer from 'multer';
import type { Api } from '../base/api';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { ICON_SIDES, iconPicture, pictureForMail, sharedPicture } from './madePictures';
import {
  addDownload,
  addPicture,
  addVideo,
  downloadPath,
  findPictures,
  findVideo,
  MAX_DOWNLOAD_BYTES,
  MAX_PICTURE_BYTES,
  picturePath,
  type Upload,
} from './store';

/** Uploads go to a temporary file first, so that a large one does not fill the memory. */
export function uploadRoutes(services: Services, api: Pick<Api, 'takesFile'>, guard: (request: Request) => void): Router {
  const router = Router();
  const receive = (limit: number): RequestHandler => {
    const take = multer({ dest: tmpdir(), limits: { fileSize: limit, files: 1 }, defParamCharset: 'utf8' }).single('file');
    return (request, response, next) =>
      take(request, response, (error: unknown) => {
        const isTooLarge = error instanceof multer.MulterError && error.code === 'LIMIT_FILE_SIZE';
        if (isTooLarge) next(fieldRefusal('file', `This file is over ${Math.floor(limit / 1024 / 1024)} MB, which is the most that can be kept here.`, 413));
        else next(isUnreadableForm(error) ? fieldRefusal('file', 'This file did not arrive whole. Send it again.') : error);
      });
  };
  // What the reader of forms says of one without boundary, end or header; what the disk says comes with a code of the system's.
  const isUnreadableForm = (error: unknown): boolean => error instanceof Error && !(error instanceof multer.MulterError) && !('code' in error);
  const guarded: RequestHandler = (request, _response, next) => {
    guard(request);
    next();
  };
  const receiveFile = async <T>(request: Request, store: (upload: Upload, contentType: string) => Promise<T>): Promise<T> => {
    const { file } = request;
    if (!file) throw fieldRefusal('file', 'Choose a file.');
    try {
      return await store({ name: file.originalname, path: file.path, bytes: file.size }, file.mimetype);
    } finally {
      await rm(file.path, { force: true });
    }
  };
  api.takesFile('/uploads/pictures', 'Add a picture', PictureInfoSchema);
  api.takesFile('/uploads/downloads', 'Add a file that buyers fetch', UploadedFileSchema);
  api.takesFile('/uploads/videos', 'Add a video', UploadedFileSchema);
  router.post('/pictures', guarded, receive(MAX_PICTURE_BYTES), async (request, response) => {
    response.status(201).json(PictureInfoSchema.parse(await receiveFile(request, (upload) => addPicture(services, upload))));
  });
  router.post('/downloads', guarded, receive(MAX_DOWNLOAD_BYTES), async (request, response) => {
    response.status(201).json(UploadedFileSchema.parse(await receiveFile(request, (upload, type) => addDownload(services, upload, type))));
  });
  router.post('/videos', guarded, receive(MAX_DOWNLOAD_BYTES), async (request, response) => {
    response.status(201).json(UploadedFileSchema.parse(await receiveFile(request, (upload) => addVideo(services, upload))));
  });
  return router;
}

const YEAR_SECONDS = 365 * 24 * 60 * 60;

/** Pictures and fonts: the same on the public site and in the studio. A picture's address never changes its content. */
export function assetRoutes(services: Services): Router {
  const router = Router();
  const forGood = (type: string) => ({
    'cache-control': `public, max-age=${YEAR_SECONDS}, immutable`,
    'content-type': type,
    'x-content-type-options': 'nosniff',
  });
  const send = (response: Response, next: NextFunction, type: string, stored: string) =>
    response.set(forGood(type)).sendFile(stored, { cacheControl: false }, (error) => error && next(error));
  const pictureOf = (id: string) => {
    const pictures = findPictures(services.db, [id]);
    return Object.hasOwn(pictures, id) ? pictures[id] : undefined;
  };
  router.get('/media/:id/shared.jpg', async (request, response, next) => {
    const picture = pictureOf(request.params.id);
    return picture ? send(response, next, 'image/jpeg', await sharedPicture(services, picture)) : next();
  });
  router.get('/media/:id/icon-:side.png', async (request, response, next) => {
    const picture = pictureOf(request.params.id);
    const side = ICON_SIDES.find((each) => String(each) === request.params.side);
    return picture && side ? send(response, next, 'image/png', await iconPicture(services, picture, side)) : next();
  });
  router.get('/media/:id/:file', async (request, response, next) => {
    const { id, file } = request.params as { id: string; file: string };
    const match = /^(\d+)\.(avif|webp|png)$/.exec(file);
    const picture = pictureOf(id);
    if (!match || !picture) return next();
    // A picture smaller than what is asked for is kept at its own width only.
    const width = picture.widths.find((kept) => kept >= Number(match[1])) ?? picture.widths.at(-1) ?? 0;
    const format = match[2] as 'avif' | 'webp' | 'png';
    const stored = format === 'png' ? await pictureForMail(services, picture) : picturePath(services, id, width, format);
    return send(response, next, `image/${format}`, stored);
  });
  router.get('/video/:id', (request, response, next) => {
    const video = findVideo(services.db, String(request.params.id));
    if (!video) return next();
    response.set(forGood(video.contentType));
    return response.sendFile(downloadPath(services, video.id), { cacheControl: false, acceptRanges: true }, (error) => error && next(error));
  });
  const kept = { maxAge: YEAR_SECONDS * 1000, immutable: true, index: false };
  router.use(
    '/assets/fonts',
    express.static(services.config.assets.fonts, { ...kept, setHeaders: (response) => response.set('access-control-allow-origin', '*') }),
  );
  return router;
}
