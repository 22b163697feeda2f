export const SURROUNDINGS = ['sun', 'damp', 'heat', 'shaking', 'magnets', 'dust'] as const;
export type Surrounding = (typeof SURROUNDINGS)[number];
