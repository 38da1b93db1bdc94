/** What the page in the workbench's frame says when its case has changed. */
export const CASE_SHOWN = 'plain-window:case-shown'

/** What the workbench says to have the page show a case that no address has room for: one with a picture. */
export const SHOW_CASE = 'plain-window:show-case'
