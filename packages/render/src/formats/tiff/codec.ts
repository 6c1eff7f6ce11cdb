import { tiffDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';
import { unreadInTiff } from './known';

export const tiffCodec = pictureCodec(tiffDeclaration, unreadInTiff);
