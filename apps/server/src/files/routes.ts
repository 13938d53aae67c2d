import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { PictureInfoSchema, UploadedFileSchema } from '@ruta/core/catalog';
import express, { type Request, type RequestHandler, Router } from 'express';
import multer from 'multer';
import type { Api } from '../base/api';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import {
  addDownload,
  addPicture,
  addVideo,
  downloadPath,
  findPictures,
  findVideo,
  MAX_DOWNLOAD_BYTES,
  MAX_PICTURE_BYTES,
  pictureForMail,
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
        next(
          isTooLarge ? fieldRefusal('file', `This file is over ${Math.floor(limit / 1024 / 1024)} MB, which is the most that can be kept here.`, 413) : error,
        );
      });
  };
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
  router.get('/media/:id/:file', async (request, response, next) => {
    const { id, file } = request.params as { id: string; file: string };
    const match = /^(\d+)\.(avif|webp|png)$/.exec(file);
    const picture = findPictures(services.db, [id])[id];
    if (!match || !picture) return next();
    // A picture smaller than what is asked for is kept at its own width only.
    const width = picture.widths.find((kept) => kept >= Number(match[1])) ?? picture.widths.at(-1) ?? 0;
    const format = match[2] as 'avif' | 'webp' | 'png';
    response.set({ 'cache-control': `public, max-age=${YEAR_SECONDS}, immutable`, 'content-type': `image/${format}`, 'x-content-type-options': 'nosniff' });
    const stored = format === 'png' ? await pictureForMail(services, picture) : picturePath(services, id, width, format);
    return response.sendFile(stored, { cacheControl: false }, (error) => error && next(error));
  });
  router.get('/video/:id', (request, response, next) => {
    const video = findVideo(services.db, String(request.params.id));
    if (!video) return next();
    response.set({ 'cache-control': `public, max-age=${YEAR_SECONDS}, immutable`, 'content-type': video.contentType, 'x-content-type-options': 'nosniff' });
    return response.sendFile(downloadPath(services, video.id), { cacheControl: false, acceptRanges: true }, (error) => error && next(error));
  });
  const kept = { maxAge: YEAR_SECONDS * 1000, immutable: true, index: false };
  router.use(
    '/assets/fonts',
    express.static(services.config.assets.fonts, { ...kept, setHeaders: (response) => response.set('access-control-allow-origin', '*') }),
  );
  return router;
}
