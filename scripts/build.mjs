import { build, install } from './setup.mjs';

install();
await build();
