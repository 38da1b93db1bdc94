/** What the workbench reads and changes, as hooks. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import {
  api,
  expectData,
  rememberCsrfToken,
  type AccessChange,
  type DemoChanges,
  type DemoState,
  type SessionState,
} from '../../api/client'
import { replaceParts } from '../../api/environments'

const SESSION = ['session']
const SHELF = ['shelf']
const KEYS = ['keys']
const SHELF_REFRESH_MS = 10_000
export const demoKey = (slug: string) => ['demo', slug]
export const checksKey = (slug: string) => ['checks', slug]
export const reportKey = (slug: string, ...rest: unknown[]) => ['report', slug, ...rest]

function remember(session: SessionState): SessionState {
  rememberCsrfToken(session.csrf_token)
  return session
}

export function useSession() {
  return useQuery({
    queryKey: SESSION,
    queryFn: async () => remember(await expectData(api.GET('/api/v1/session'))),
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** Sign in, set a password, sign out: whatever ends in another session. */
export function useSessionChange<Input>(change: (input: Input) => Promise<SessionState>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (input: Input) => remember(await change(input)),
    onSuccess: (session) => {
      queries.setQueryData(SESSION, session)
      void queries.invalidateQueries({ queryKey: SHELF })
    },
  })
}

export function useSignOut() {
  return useEnd(() => expectData(api.DELETE('/api/v1/session')))
}

/** End all sessions of the author, this one too. */
export function useSignOutEverywhere() {
  return useEnd(() => expectData(api.DELETE('/api/v1/sessions')))
}

function useEnd(end: () => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: end,
    onSuccess: () => {
      rememberCsrfToken(null)
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== SESSION[0] })
      // Asked anew wherever it is shown, not only where this was pressed.
      return queries.resetQueries({ queryKey: SESSION })
    },
  })
}

export function useKeys() {
  return useQuery({ queryKey: KEYS, queryFn: () => expectData(api.GET('/api/v1/keys')) })
}

export function useMakeKey() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (name: string) => expectData(api.POST('/api/v1/keys', { body: { name } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS }),
  })
}

export function useRevokeKey() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => expectData(api.DELETE('/api/v1/keys/{key_id}', { params: { path: { key_id: id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS }),
  })
}

export function useShelf() {
  return useQuery({
    queryKey: SHELF,
    queryFn: () => expectData(api.GET('/api/v1/demos')),
    refetchInterval: SHELF_REFRESH_MS,
  })
}

export function fetchDemo(slug: string): Promise<DemoState> {
  return expectData(api.GET('/api/v1/demos/{slug}', { params: { path: { slug } } }))
}

export function useDemo(slug: string) {
  return useQuery({ queryKey: demoKey(slug), queryFn: () => fetchDemo(slug) })
}

/** Change the draft; what comes back is the draft as it now is. */
export function changeDemo(slug: string, changes: DemoChanges): Promise<DemoState> {
  return expectData(api.PATCH('/api/v1/demos/{slug}', { params: { path: { slug } }, body: changes }))
}

/** Changes to the draft, each from looking at it to having it back. */
export function useDraftChange(slug: string, onChanged: () => void) {
  const queries = useQueryClient()
  return useMutation({
    // One after another: of two quick edits the later one must also arrive later, and know of the one before.
    scope: { id: `draft-${slug}` },
    mutationFn: (change: () => Promise<DemoState>) => change(),
    onSuccess: (demo: DemoState) => {
      queries.setQueryData(demoKey(slug), demo)
      // Names and thresholds may have changed: what was counted by the old ones is counted anew.
      void queries.invalidateQueries({ queryKey: reportKey(slug) })
      void queries.invalidateQueries({ queryKey: ['known', slug] })
      void queries.invalidateQueries({ queryKey: checksKey(slug) })
      onChanged()
    },
  })
}

export function usePublish(slug: string) {
  const queries = useQueryClient()
  return useMutation({
    // After what is still being saved: what was typed a moment ago is part of what is published.
    scope: { id: `draft-${slug}` },
    mutationFn: (release: { note: string; despite: Record<string, string> }) =>
      expectData(api.POST('/api/v1/demos/{slug}/releases', { params: { path: { slug } }, body: release })),
    onSuccess: () => queries.invalidateQueries({ queryKey: demoKey(slug) }),
  })
}

/** Replace parts of what a demo was made of; what comes back is the draft as it then is. */
export function useReplace(slug: string, onChanged: () => void) {
  const queries = useQueryClient()
  return useMutation({
    scope: { id: `draft-${slug}` },
    mutationFn: (form: FormData) => replaceParts(slug, form, () => undefined),
    onSuccess: ({ demo }) => {
      queries.setQueryData(demoKey(slug), demo)
      // Of another model nothing holds that was counted before.
      queries.removeQueries({ queryKey: reportKey(slug) })
      queries.removeQueries({ queryKey: ['known', slug] })
      queries.removeQueries({ queryKey: checksKey(slug) })
      onChanged()
    },
  })
}

export function useRows(slug: string, offset: number, limit: number, isWanted: boolean) {
  return useQuery({
    queryKey: ['rows', slug, offset],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/rows', { params: { path: { slug }, query: { offset, limit } } })),
    enabled: isWanted,
    placeholderData: (before) => before,
  })
}

export function useLog(slug: string, isWanted: boolean) {
  return useQuery({
    queryKey: ['log', slug],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/log', { params: { path: { slug }, query: { limit: 50 } } })),
    enabled: isWanted,
  })
}

export function useAccessChange(slug: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (change: AccessChange) =>
      expectData(api.PUT('/api/v1/demos/{slug}/access', { params: { path: { slug } }, body: change })),
    onSuccess: () => queries.invalidateQueries({ queryKey: demoKey(slug) }),
  })
}

export function useShelfChange<Input>(change: (input: Input) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({ mutationFn: change, onSuccess: () => queries.invalidateQueries({ queryKey: SHELF }) })
}
