// Prints "passed failed" of a Jest or Playwright JSON report; a missing report or an empty run is a failure.
import { readFileSync } from 'node:fs';

const report = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const jest = 'numPassedTests' in report;
const passed = jest ? report.numPassedTests : report.stats.expected + report.stats.flaky;
// A suite that could not be loaded has no tests of its own, but is a failure all the same.
const failed = jest ? report.numFailedTests + report.numRuntimeErrorTestSuites : report.stats.unexpected + report.errors.length;
console.log(passed, passed + failed === 0 ? 1 : failed);
