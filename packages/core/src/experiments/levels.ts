/** How sure a test is to be: false alarms two-sided, and how likely a real difference is found. */
export const ALPHA = 0.05;
export const POWER = 0.8;
