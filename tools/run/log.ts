/**
 * A log that goes on where it ended, of which a few files of a few MB are kept. What cannot be written (a full disk) is dropped: a
 * server whose output nobody takes would stand still.
 */
import { Writable } from 'node:stream';
import { createStream, type RotatingFileStream } from 'rotating-file-stream';
import { say } from './trouble';

const SIZE = '4M';
const FILES = 4;
/** After a failure the file is tried again after this. */
const AGAIN_MS = 5_000;
/** More than this does not wait for a slow disk. */
const MOST_WAITING_BYTES = 4 * 1024 * 1024;

export class Log extends Writable {
  private file: RotatingFileStream | null = null;
  private failedAt = -Infinity;
  private told = false;

  constructor(
    private readonly folder: string,
    private readonly name: string,
    private readonly now: () => number = Date.now,
  ) {
    super();
  }

  override _write(chunk: Buffer, _encoding: BufferEncoding, done: () => void): void {
    const file = this.open();
    if (file && file.writableLength < MOST_WAITING_BYTES) file.write(chunk);
    done();
  }

  override _final(done: () => void): void {
    if (!this.file) return done();
    this.file.end(done);
  }

  private open(): RotatingFileStream | null {
    if (this.file || this.now() - this.failedAt < AGAIN_MS) return this.file;
    const file = createStream(`${this.name}.log`, { path: this.folder, size: SIZE, maxFiles: FILES, history: `.${this.name}.history` });
    file.on('error', (error: Error) => {
      if (this.file !== file) return;
      this.file = null;
      this.failedAt = this.now();
      file.destroy();
      if (!this.told) say(`omaggio: the log ${this.name}.log cannot be written (${error.message}); everything else goes on.`);
      this.told = true;
    });
    this.file = file;
    return file;
  }
}
