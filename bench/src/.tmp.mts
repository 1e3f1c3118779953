import { benchRates } from '/work/main/bench/src/rates';
await benchRates();
