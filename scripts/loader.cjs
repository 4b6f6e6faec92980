'use strict';
/*
 * Runs the file of the same name with `.code.js`, with what the engine compiled of it the last time: most of the time a
 * start takes is compiling. What was compiled for another engine, or from another text, is not taken and made anew.
 */
const { readFileSync, renameSync, writeFileSync } = require('node:fs');
const { createRequire } = require('node:module');
const { basename, dirname, join } = require('node:path');
const { Script, constants } = require('node:vm');

const file = join(__dirname, `${basename(__filename, '.js')}.code.js`);
const kept = `${file}.cache`;

function read(path) {
  try {
    return readFileSync(path);
  } catch {
    return undefined;
  }
}

const cachedData = read(kept);
const script = new Script(`(function (exports, require, module, __filename, __dirname) {${readFileSync(file, 'utf8')}\n})`, {
  filename: file,
  cachedData,
  importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER,
});
if (!cachedData || script.cachedDataRejected || process.env.CORVUN_WARM)
  process.once('exit', () => {
    try {
      const made = `${kept}.${process.pid}`;
      writeFileSync(made, script.createCachedData());
      renameSync(made, kept);
    } catch {
      // A folder that may not be written to: it is compiled the next time, too.
    }
  });
script.runInThisContext()(module.exports, createRequire(file), module, file, dirname(file));
