import type { BoardReading } from '../../evaluate/boards/footprint';
import { type DrawingCarries, drawingFeatures } from './features';

/** How footprints of drawings read boards: from every layer. */
export const drawingReading: BoardReading<DrawingCarries> = { kind: 'drawing', features: drawingFeatures, takes: () => true };
