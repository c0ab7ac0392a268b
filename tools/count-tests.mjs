// Prints "passed failed" of a Jest or Playwright JSON report, and on lines of their own what failed with the beginning of its reason; a
// missing report or an empty run is a failure.
import { readFileSync } from 'node:fs';

const report = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const jest = 'numPassedTests' in report;
const passed = jest ? report.numPassedTests : report.stats.expected + report.stats.flaky;
// A suite that could not be loaded has no tests of its own, but is a failure all the same.
const failed = jest ? report.numFailedTests + report.numRuntimeErrorTestSuites : report.stats.unexpected + report.errors.length;
console.log(passed, passed + failed === 0 ? 1 : failed);

/** As a terminal shows it, without its colours. */
const plain = (text) =>
  text
    .replace(/\u001b\[\d*m/g, '')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 400);
const ofJest = () =>
  report.testResults.flatMap(({ name, message, assertionResults }) =>
    assertionResults.length === 0 && message
      ? [`${name}: ${plain(message)}`]
      : assertionResults
          .filter(({ status }) => status === 'failed')
          .map(({ fullName, failureMessages }) => `${name.split('/').at(-1)}: ${fullName}: ${plain(failureMessages[0] ?? '')}`),
  );
const ofPlaywright = (suite) => [
  ...(suite.suites ?? []).flatMap(ofPlaywright),
  ...(suite.specs ?? [])
    .filter(({ ok }) => !ok)
    .map(({ title, file, tests }) => `${file}: ${title}: ${plain(tests.at(-1)?.results.at(-1)?.error?.message ?? '')}`),
];
if (failed > 0) for (const line of jest ? ofJest() : ofPlaywright(report)) console.log(line);
