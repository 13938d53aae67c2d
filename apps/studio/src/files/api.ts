import type { UploadedPicture } from '@ruta/core/page';
import { api } from '../base/api';

export const filesApi = api.injectEndpoints({
  endpoints: (build) => ({
    pictures: build.query<UploadedPicture[], void>({ query: () => '/pictures' }),
  }),
});
