import { Button, Group, Menu } from '@mantine/core'
import { IconBookmark, IconNews, IconShare2 } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { mayEdit, useSession } from '../../access/session'
import { asKept, fromKept } from '../question/keptQuestion'
import { SaveView } from './SaveView'
import type { Asked, Question } from '../question/question'
import classes from './SavedViews.module.css'
import { ExportMenu } from '../compare/ExportMenu'
import { ViewDrawer } from './ViewDrawer'
import { viewsQuery } from './views'

/** Above the question: the views that are pinned, all others a key away, and what can be done with this one. */
export function SavedViews({ question, asked }: { question: Question; asked: Asked }) {
  const session = useSession()
  const views = useQuery(viewsQuery)
  const [isOpen, setIsOpen] = useState(false)
  const kept = asKept(question)
  const current = views.data?.find((view) => asKept(fromKept(view.question)) === kept)
  const pinned = views.data?.filter((view) => view.isPinned) ?? []
  const others = views.data?.filter((view) => !view.isPinned) ?? []
  return (
    <nav className={classes.bar} aria-label="Saved views">
      {pinned.map((view) => (
        <Link
          key={view.id}
          to="/compare"
          search={fromKept(view.question)}
          className={classes.view}
          aria-current={view === current ? 'page' : undefined}
          activeProps={{}}
        >
          {view.name}
        </Link>
      ))}
      {others.length > 0 && (
        <Menu position="bottom-start">
          <Menu.Target>
            <button type="button" className={classes.view}>
              {current && !current.isPinned ? current.name : pinned.length > 0 ? 'More views' : 'Saved views'}{' '}
              ▾
            </button>
          </Menu.Target>
          <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
            {others.map((view) => (
              <Menu.Item
                key={view.id}
                renderRoot={(props) => <Link to="/compare" search={fromKept(view.question)} {...props} />}
              >
                {view.name}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
      )}
      <Group gap={4} ml="auto" wrap="nowrap" style={{ flexShrink: 0 }}>
        <Button
          variant="subtle"
          size="compact-sm"
          leftSection={<IconNews size={15} aria-hidden />}
          renderRoot={(props) => <Link to="/digest" {...props} />}
        >
          Weekly digest
        </Button>
        <ExportMenu asked={asked} title={current?.name} />
        {current ? (
          <Button
            variant="subtle"
            size="compact-sm"
            leftSection={<IconShare2 size={15} aria-hidden />}
            onClick={() => setIsOpen(true)}
          >
            {mayEdit(session) ? 'Share or edit this view' : 'About this view'}
          </Button>
        ) : (
          mayEdit(session) &&
          views.data && (
            <SaveView question={question}>
              <Button variant="subtle" size="compact-sm" leftSection={<IconBookmark size={15} aria-hidden />}>
                Save view
              </Button>
            </SaveView>
          )
        )}
      </Group>
      {current && (
        <ViewDrawer
          key={current.id}
          view={current}
          isOpen={isOpen}
          onClose={() => setIsOpen(false)}
          mayChange={mayEdit(session)}
        />
      )}
    </nav>
  )
}
