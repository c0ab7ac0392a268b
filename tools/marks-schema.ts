/** Writes the schema of the marks file from the shape that the code uses. */
import { writeFileSync } from 'node:fs';
import { z } from 'zod';
import { marksFileShape } from '../core/formats/marks-file';

writeFileSync('docs/marks-file.schema.json', `${JSON.stringify(z.toJSONSchema(marksFileShape), null, 2)}\n`);
