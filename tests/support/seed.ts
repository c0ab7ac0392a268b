/** One seed for all properties, so that a failure comes again; `npm run test:long` takes another one each time. */
import fc from 'fast-check';

if (!process.env.OMAGGIO_LONG) fc.configureGlobal({ seed: 20_300_101 });
