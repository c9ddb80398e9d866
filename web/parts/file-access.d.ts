/** What browsers that let a page keep files and folders have, and the types of the platform do not (WICG File System Access). */
interface FileSystemHandle {
  queryPermission?(descriptor: { mode: 'read' }): Promise<PermissionState>;
  /** Only while the user has just done something. */
  requestPermission?(descriptor: { mode: 'read' }): Promise<PermissionState>;
}
interface FileSystemDirectoryHandle {
  values(): AsyncIterableIterator<FileSystemHandle>;
}
interface Window {
  /** Rejects with an AbortError when none is chosen. */
  showDirectoryPicker?(options: { id: string; mode: 'read' }): Promise<FileSystemDirectoryHandle>;
  showOpenFilePicker?(options: { id: string }): Promise<FileSystemFileHandle[]>;
}
