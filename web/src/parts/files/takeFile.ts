import type { MouseEvent } from 'react'
import { within } from '../../api/address'
import { readFile } from '../../api/client'
import { saveFile } from './saveFile'
import { tellFailure } from '../tellFailure'

/**
 * Makes an anchor take a file away in such a manner that a failure is told in words; left to itself, a browser says at most that there is no file.
 * For what fits in memory: where a file may be of any size, a plain anchor lets the browser write as it reads.
 */
export const takeFile = (address: string) => ({
  href: within(address),
  onClick: (event: MouseEvent) => {
    event.preventDefault()
    readFile(within(address)).then(({ file, name }) => saveFile(file, name), tellFailure)
  },
})
