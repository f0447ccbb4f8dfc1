import { useQuery } from '@tanstack/react-query'
import { Link as RouterLink } from '@tanstack/react-router'
import { useState, type DragEvent } from 'react'
import { vocabulary } from '../../../api/vocabulary'
import { count } from '../../../parts/format/numbers'
import classes from './FolderStrip.module.css'
import { asList, noFolder, type LinksSearch } from '../filter/linksSearch'

/** What a dragged row carries: the id of its link, or nothing where all picked rows are dragged. */
export const draggedLinks = 'application/x-cursus-links'

interface Props {
  search: LinksSearch
  /** Moves the dragged link, or all picked ones where none is named. */
  onMove: (folder: string, link: string | undefined) => void
}

/** The folders above the list: each narrows it, and takes rows that are dropped on it. */
export function FolderStrip({ search, onMove }: Props) {
  const folders = useQuery(vocabulary.folders)
  if (!folders.data?.length) return null
  return (
    <nav className={classes.strip} aria-label="Folders">
      <Place label="All" folder={undefined} search={search} />
      {folders.data.map((folder) => (
        <Place
          key={folder.id}
          label={folder.name}
          links={folder.links}
          folder={asList([folder.name])}
          search={search}
          onDrop={(link) => onMove(folder.name, link)}
        />
      ))}
      <Place label="No folder" folder={noFolder} search={search} onDrop={(link) => onMove('', link)} />
    </nav>
  )
}

interface PlaceProps {
  label: string
  links?: number
  folder: string | undefined
  search: LinksSearch
  onDrop?: (link: string | undefined) => void
}

function Place({ label, links, folder, search, onDrop }: PlaceProps) {
  const [isOver, setIsOver] = useState(false)
  const mayDrop = (event: DragEvent) => {
    if (!onDrop || !event.dataTransfer.types.includes(draggedLinks)) return
    event.preventDefault()
    setIsOver(true)
  }
  return (
    <RouterLink
      to="/links"
      search={{ ...search, folder }}
      className={classes.place}
      aria-current={search.folder === folder ? 'true' : undefined}
      activeProps={{}}
      data-over={isOver || undefined}
      onDragEnter={mayDrop}
      onDragOver={mayDrop}
      onDragLeave={() => setIsOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setIsOver(false)
        onDrop?.(event.dataTransfer.getData(draggedLinks) || undefined)
      }}
    >
      {label}
      {links !== undefined && <span>{count(links)}</span>}
    </RouterLink>
  )
}
