export const codec = async () => (await import('./codec')).stepCodec;
