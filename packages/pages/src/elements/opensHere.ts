/**
 * A page that the server sends back opens at its message, with focus there, also without script: the browser looks for the
 * first such element and brings it into view.
 */
export const OPENS_HERE = { autoFocus: true, tabIndex: -1 } as const;
