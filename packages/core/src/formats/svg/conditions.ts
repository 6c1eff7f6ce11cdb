import type { XmlElement } from './xml-element';

/** Whether a branch of a switch is for this reader: without demands, and in English or in no language. */
export const isOffered = ({ attributes }: XmlElement): boolean =>
  !attributes['requiredExtensions'] && (!attributes['systemLanguage'] || /(^|,)\s*en\b/.test(attributes['systemLanguage']));
