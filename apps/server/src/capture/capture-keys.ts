import type { Owned } from '../kernel/kind';
import { CaptureKey } from './capture-key.entity';

export const captureKeys: Owned = { entity: CaptureKey, exported: { name: 'capture-keys', order: 'key' } };
