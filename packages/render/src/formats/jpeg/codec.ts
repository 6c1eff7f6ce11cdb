import { jpegDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';
import { unreadInJpeg } from './known';

export const jpegCodec = pictureCodec(jpegDeclaration, unreadInJpeg);
