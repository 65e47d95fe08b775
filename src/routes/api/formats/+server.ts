import { json } from '@sveltejs/kit';
import { FORMATS } from '$lib/core/formats';
import { isWritten } from '$lib/server/formats/write';

/** Every format there is, and what may be said with each. */
export const GET = () =>
  json({
    formats: FORMATS.map((format) => ({
      id: format.id,
      name: format.name,
      extension: format.extension,
      kind: format.kind,
      about: format.about,
      reads: format.read !== undefined,
      writes: isWritten(format),
      options: format.options
    }))
  });
