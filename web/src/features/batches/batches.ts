import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, asFile, read, type Schema } from '../../api/client'
import { linkOptions } from '../../api/linkOptions'

export type Batch = Schema['BatchesResponse']
export type BatchRequest = Schema['BatchRequest']
export type Preview = Schema['RunBatchPreview']
export type Choices = NonNullable<BatchRequest['choices']>
export type ListField = NonNullable<Schema['NullableOfListField']>

/** What a column may say, as it is named on the screen. */
export const listFields: ReadonlyArray<{ value: ListField; label: string }> = [
  { value: 'destination', label: 'Destination' },
  { value: 'title', label: 'Title' },
  { value: 'channel', label: 'Channel' },
  { value: 'campaign', label: 'Campaign' },
  { value: 'source', label: 'Source' },
  { value: 'medium', label: 'Medium' },
  { value: 'term', label: 'Term' },
  { value: 'content', label: 'Content' },
  { value: 'slug', label: 'Slug' },
  { value: 'short-address', label: 'Short address' },
  { value: 'domain', label: 'Short domain' },
  { value: 'tags', label: 'Tags' },
  { value: 'folder', label: 'Folder' },
  { value: 'group', label: 'Group' },
  { value: 'note', label: 'Note' },
  { value: 'redirect', label: 'Redirect' },
  ...linkOptions.map((o) => ({ value: o.column, label: o.name })),
  { value: 'published-on', label: 'Publish date' },
  { value: 'opens-at', label: 'Opens' },
  { value: 'ends-at', label: 'Ends' },
  { value: 'saved-route', label: 'Saved route' },
  { value: 'split', label: 'Split' },
  { value: 'rules', label: 'Rules' },
  { value: 'created-at', label: 'Created on' },
  { value: 'brought-along', label: 'Imported clicks' },
]

const polling = 400

/** One batch; asked for again and again while its links are made. */
export const batchQuery = (id: string) =>
  queryOptions({
    queryKey: ['batches', id],
    queryFn: () => read(api.GET('/api/v1/batches/{id}', { params: { path: { id } } })),
    refetchInterval: ({ state }) => (state.data?.state === 'running' ? polling : false),
  })

export const batchesQuery = queryOptions({
  queryKey: ['batches'],
  queryFn: () =>
    read(api.GET('/api/v1/batches', { params: { query: { limit: 5 } } })).then((page) => page.items),
})

/** What making the list would come to. */
export const previewQuery = (id: string, request: BatchRequest) =>
  queryOptions({
    queryKey: ['batches', id, 'preview', request],
    queryFn: () =>
      read(api.POST('/api/v1/batches/{id}/preview', { params: { path: { id } }, body: request })),
    placeholderData: keepPreviousData,
    // Slugs may be taken by others at any time, so that an old answer is none.
    staleTime: 0,
  })

/** Hands a list over as it is: a file, or what was pasted. */
export const uploadList = (list: Blob, name: string) =>
  read(
    api.POST('/api/v1/batches', {
      params: { query: { name } },
      ...asFile(list),
    }),
  )

export const runBatch = (id: string, request: BatchRequest) =>
  read(api.POST('/api/v1/batches/{id}/run', { params: { path: { id } }, body: request }))

/** What making the list would come to, line by line, as a file. */
export const reportOf = (id: string, request: BatchRequest) =>
  read(api.POST('/api/v1/batches/{id}/report', { params: { path: { id } }, body: request, parseAs: 'blob' }))

/** Cancels a batch that is being made, or throws its list away. */
export const cancelBatch = (id: string) =>
  read(api.DELETE('/api/v1/batches/{id}', { params: { path: { id } } }))
