import { tiffDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';

export const tiffCodec = pictureCodec(tiffDeclaration);
