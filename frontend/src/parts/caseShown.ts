/** What the page in the workbench's frame says when its case has changed. */
export const CASE_SHOWN = 'plain-window:case-shown'
