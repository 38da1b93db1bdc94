/** What the workbench says to the page it shows when the draft has changed. */
export const DRAFT_CHANGED = 'plain-window:draft-changed'
