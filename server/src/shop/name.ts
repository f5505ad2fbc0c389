/** The shop that works here. */
export const SHOP_NAME = 'Millrace Signworks';
