/** A mutation run tries each property a few times for each of its thousand breaks. */
const fc = require('fast-check');
fc.configureGlobal({ ...fc.readConfigureGlobal(), numRuns: 12 });
