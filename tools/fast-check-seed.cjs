/**
 * Property tests take the same seed in every run of `npm test`, so that one commit gives one verdict.
 * `YELLOWHAMMER_SEED=random` (or a number) hunts with others; `npm run test:long` does so by itself.
 */
const fc = require('fast-check');
const asked = process.env.YELLOWHAMMER_SEED ?? (process.env.YELLOWHAMMER_LONG ? 'random' : '20270301');
fc.configureGlobal({ seed: asked === 'random' ? Date.now() ^ (Math.random() * 0x100000000) : Number(asked) });
