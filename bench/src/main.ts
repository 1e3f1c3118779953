import { benchBilling } from './billing';
import { benchDraft } from './draft';
import { benchFile } from './file';
import { benchLarge } from './large';
import { benchLoad } from './load';
import { benchRates } from './rates';
import { benchReceipts } from './receipts';

benchLoad();
await benchDraft();
await benchBilling();
await benchRates();
await benchFile();
await benchReceipts();
await benchLarge();
