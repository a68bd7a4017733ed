/** Any part of a place can ask the frame for the record dialog. */
export const OPEN_RECORD = 'wingman:record';
/** Opens the dialog that records. */
export const askToRecord = (): void => void window.dispatchEvent(new CustomEvent(OPEN_RECORD));
