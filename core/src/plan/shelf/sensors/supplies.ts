/** How a 3.3 V two-wire chip and a 5 V module are fed and what they bear. */
export const I2C33 = { bus: 'I2C', supplyLowV: 2.7, supplyHighV: 3.6, logicV: 3.3, bearsV: 3.6 } as const;
export const MODULE5 = { supplyLowV: 4.5, supplyHighV: 5.5, logicV: 5, bearsV: 5.5 } as const;
