/** Why a request is refused, for programs; docs/relay.md lists them. */
export type RelayFaultCode =
  | 'not signed'
  | 'wrong signature'
  | 'wrong time'
  | 'seen before'
  | 'not let in'
  | 'not there'
  | 'unreadable'
  | 'does not follow'
  | 'head has moved'
  | 'too large'
  | 'no room'
  | 'too many'
  | 'too slow';

const status: Record<RelayFaultCode, number> = {
  'not signed': 401,
  'wrong signature': 401,
  'wrong time': 401,
  'seen before': 409,
  'not let in': 403,
  'not there': 404,
  unreadable: 400,
  'does not follow': 400,
  'head has moved': 409,
  'too large': 413,
  'no room': 507,
  'too many': 429,
  'too slow': 408,
};

/** A request that is refused. Nothing was changed. */
export class RelayFault extends Error {
  override name = 'RelayFault';
  readonly code: RelayFaultCode;
  readonly statusCode: number;
  /** What the device needs to go on. */
  readonly data: object;

  constructor(code: RelayFaultCode, message: string, data: object = {}) {
    super(message);
    this.code = code;
    this.statusCode = status[code];
    this.data = data;
  }
}
