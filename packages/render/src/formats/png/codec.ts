import { pngDeclaration } from '@inkwell-twin/core';
import { pictureCodec } from '../picture-codec';
import { unreadInPng } from './known';

export const pngCodec = pictureCodec(pngDeclaration, unreadInPng);
