import { keepPreviousData, queryOptions, type QueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'

export type CodeStyle = Schema['CodeStyle']
export type SavedStyle = Schema['CodeStylesResponse']
export type Finding = Schema['CodeFinding']
export type Judgement = Schema['CodeJudgement']
export type LinkCode = Schema['CodesOfLinkResponse']

/** What a code is drawn from while its look is being chosen. */
export interface Wanted {
  link: string
  code: number
  style: CodeStyle
  place: string
}

/** Black squares on white, as the server has it where nothing else is said. */
export const plain: Required<CodeStyle> = {
  modules: 'square',
  corners: 'square',
  centres: 'square',
  ink: '#000000',
  gradient: null,
  cornerInk: null,
  centreInk: null,
  ground: '#ffffff',
  quietZone: 4,
  logo: null,
  frame: null,
}

export const codesOfLink = (link: string) =>
  queryOptions({
    queryKey: ['codes', link],
    queryFn: () => read(api.GET('/api/v1/links/{id}/codes', { params: { path: { id: link } } })),
  })

export const stylesQuery = queryOptions({
  queryKey: ['code-styles'],
  queryFn: () => read(api.GET('/api/v1/code-styles', { params: { query: { limit: 200 } } })),
  select: (page) => page.items,
})

export const placesQuery = queryOptions({
  queryKey: ['code-places'],
  queryFn: () => read(api.GET('/api/v1/codes/places')),
  staleTime: Infinity,
})

export const logosQuery = queryOptions({
  queryKey: ['code-logos'],
  queryFn: () => read(api.GET('/api/v1/code-logos', { params: { query: { limit: 200 } } })),
  select: (page) => page.items,
})

/** The picture; the one before stays until it is there. */
export const previewQuery = (wanted: Wanted) =>
  queryOptions({
    queryKey: ['code-preview', wanted],
    queryFn: () => read(api.POST('/api/v1/codes/preview', { body: wanted })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  })

/** What is left of the code's strength when its picture is disturbed. */
export const checkQuery = (wanted: Wanted) =>
  queryOptions({
    queryKey: ['code-check', wanted],
    queryFn: () => read(api.POST('/api/v1/codes/check', { body: wanted })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  })

/** After styles or their links have changed. */
export const stylesChanged = (queries: QueryClient) =>
  Promise.all([
    queries.invalidateQueries({ queryKey: ['code-styles'] }),
    queries.invalidateQueries({ queryKey: ['codes'] }),
  ])
