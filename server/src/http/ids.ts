const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/iu;

/** Whether a text can be an id at all: the database refuses others with an error of its own. */
export const isUuid = (text: string): boolean => UUID.test(text);
