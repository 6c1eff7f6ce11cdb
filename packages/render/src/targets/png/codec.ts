import { pngDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';

export const pngCodec = pictureCodec(pngDeclaration);
