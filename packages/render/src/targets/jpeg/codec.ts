import { jpegDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';

export const jpegCodec = pictureCodec(jpegDeclaration);
