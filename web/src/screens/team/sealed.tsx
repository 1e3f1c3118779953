import { usePricer } from '../../data/book';
import { Loading, Page } from '../../parts/page';
import { SealedPart } from './sealed-part';

/** In a member's own workspace: what comes from the studio and goes to it. */
export default function Sealed() {
  const pricer = usePricer();
  return <Page title="Sealed files">{pricer ? <SealedPart pricer={pricer} /> : <Loading />}</Page>;
}
