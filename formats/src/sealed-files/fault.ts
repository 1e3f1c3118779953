/** A sealed file that cannot be opened: in words, with nothing of it given out. */
export class SealedFileFault extends Error {
  override name = 'SealedFileFault';
  readonly code: 'not sealed' | 'for somebody else' | 'altered' | 'wrong passphrase' | 'unreadable' | 'newer';

  constructor(code: SealedFileFault['code'], message: string) {
    super(message);
    this.code = code;
  }
}
