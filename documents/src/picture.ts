import type { Picture } from '@half-penny/core/model';

/** A picture as an address that holds it (RFC 2397). */
export const pictureAddress = ({ mediaType, data }: Pick<Picture, 'mediaType' | 'data'>): string =>
  `data:${mediaType};base64,${data}`;
