import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { ActionIcon } from '@mantine/core'
import { IconGripVertical } from '@tabler/icons-react'
import type { ReactNode } from 'react'

interface Props<Key extends string | number> {
  /** In their present order. */
  ids: Key[]
  nameOf: (id: Key) => string
  onOrder: (ids: Key[]) => void
  children: ReactNode
}

/** A list whose order is changed by dragging or by the keyboard, with words for those who can’t see it. */
export function Sortable<Key extends string | number>({ ids, nameOf, onOrder, children }: Props<Key>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const place = (id: unknown) => ids.findIndex((other) => other === id)
  const called = (id: unknown) => nameOf(id as Key)
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onOrder(arrayMove(ids, place(active.id), place(over.id)))
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        screenReaderInstructions: {
          draggable: 'Press space to pick up, arrow keys to move, space to drop, escape to cancel.',
        },
        announcements: {
          onDragStart: ({ active }) => `${called(active.id)} picked up.`,
          onDragOver: ({ active, over }) =>
            over ? `${called(active.id)} is at place ${place(over.id) + 1} of ${ids.length}.` : undefined,
          onDragEnd: ({ active, over }) =>
            over ? `${called(active.id)} moved to place ${place(over.id) + 1}.` : 'Not moved.',
          onDragCancel: () => 'Not moved.',
        },
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  )
}

/** What an item of such a list needs: how its element is found and drawn, and the handle that it is moved by. */
export function useSorted(id: string | number, name: string, isFixed: boolean) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } =
    useSortable({ id, disabled: isFixed })
  return {
    setNode: setNodeRef,
    style: {
      transform: CSS.Translate.toString(transform),
      transition,
      background: isDragging ? 'var(--wash)' : undefined,
      position: 'relative' as const,
    },
    handle: (
      <ActionIcon
        variant="subtle"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
        style={{ cursor: 'grab', touchAction: 'none' }}
      >
        <IconGripVertical size={16} aria-hidden />
      </ActionIcon>
    ),
  }
}
