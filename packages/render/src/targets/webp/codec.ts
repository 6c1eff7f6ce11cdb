import { webpDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';

export const webpCodec = pictureCodec(webpDeclaration);
