import { webpDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';
import { unreadInWebp } from './known';

export const webpCodec = pictureCodec(webpDeclaration, unreadInWebp);
