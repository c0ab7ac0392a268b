import path from 'node:path';

/** What the browser tests come in with; made anew where the server is another one. */
export const SESSION_FILE = path.join('.omaggio', 'test', 'session.json');
