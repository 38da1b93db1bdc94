/** A place for files, a folder or a zip of them. */
export interface FilesInputProps {
  label: string
  isFolder?: boolean
  isMultiple?: boolean
  accept?: string
  onFiles: (files: File[]) => void
}

export function FilesInput({ label, isFolder, isMultiple, accept, onFiles }: FilesInputProps) {
  return (
    <label>
      <span className="block text-soft">{label}</span>
      <input
        type="file"
        {...(isFolder ? { webkitdirectory: '' } : { accept, multiple: isMultiple })}
        className="mt-1 text-soft file:mr-4 file:rounded-full file:border file:border-glass file:bg-transparent file:px-4 file:py-1 file:font-bold file:text-glass"
        onChange={(event) => {
          if (event.target.files?.length) onFiles([...event.target.files])
          // The same files may be chosen once more.
          event.target.value = ''
        }}
      />
    </label>
  )
}
