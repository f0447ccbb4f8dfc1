/** Devices that rules tell apart. */
export const devices = [
  { value: 'phone', label: 'Phone' },
  { value: 'tablet', label: 'Tablet' },
  { value: 'computer', label: 'Computer' },
  { value: 'other', label: 'Another device' },
]
