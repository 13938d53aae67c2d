import { z } from 'zod';
import type { Facts } from './facts';

export const which = z.enum(['first', 'last']).default('last').describe('Of the first visit, or of the latest that had one');
export const campaignOf = (of: 'first' | 'last', facts: Facts) => (of === 'first' ? facts.firstCampaign : facts.lastCampaign);
export const cameWords = (of: 'first' | 'last') => (of === 'first' ? 'first came' : 'came');
