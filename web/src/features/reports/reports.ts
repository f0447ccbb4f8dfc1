import { queryOptions } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import type { Asked, Dimension } from './question/question'

/** The answer to a question. */
export const breakdownOf = (asked: Asked) =>
  queryOptions({
    queryKey: ['breakdown', asked],
    queryFn: () => read(api.GET('/api/v1/reports/breakdown', { params: { query: asked } })),
  })

/** Two things crossed. */
export const pivotOf = (asked: Asked) =>
  queryOptions({
    queryKey: ['pivot', asked],
    queryFn: () => read(api.GET('/api/v1/reports/pivot', { params: { query: asked } })),
  })

/** On which weekdays and at which hours the clicks of a question came. */
export const weekHoursOf = (asked: Asked) => pivotOf(weekHours(asked))

/** The same question by weekday and hour. */
export const weekHours = (asked: Asked) => crossed(asked, 'weekday', 'hour')

/** The same question by two things at once. */
export const crossed = (asked: Asked, by: Dimension, across: Dimension): Asked => ({
  ...asked,
  by,
  across,
  compare: 'none',
})
