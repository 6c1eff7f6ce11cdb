import { jpegDeclaration } from '@inkwell-twin/core';
import { againAs } from './again';
import { pictureCodec } from '../picture-codec';
import { unreadInJpeg } from './known';

export const jpegCodec = { ...pictureCodec(jpegDeclaration, unreadInJpeg), again: againAs };
