import type { Pricer } from '@half-penny/core/billing';
import { CostCodes } from './cost-codes';
import { FreeTasks } from './free-tasks';
import { Services } from './services';
import { Stages } from './stages';

/** What the studio sells, the headings that falls under, and how far work is. */
export const ServicesAndStages = ({ pricer }: { pricer: Pricer }) => (
  <>
    <Services pricer={pricer} />
    <FreeTasks pricer={pricer} />
    <CostCodes pricer={pricer} />
    <Stages pricer={pricer} />
  </>
);
