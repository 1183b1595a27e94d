import type { StepDescription } from '../step/description';
import { handoverStep } from './handover/description';
import { pictureStep } from './picture/description';
import { sizeStep } from './size/description';
import { solidStep } from './solid/description';
import { traceStep } from './trace/description';
import { trueStep } from './true/description';

/** The steps of a job in their order; each step describes itself. */
export const STEPS: readonly StepDescription[] = [pictureStep, trueStep, traceStep, sizeStep, solidStep, handoverStep];
