const taken = (event: DragEvent): boolean =>
  event.defaultPrevented || (event.target instanceof HTMLInputElement && event.target.type === 'file');

/** A file that is dropped where nothing takes it does not open in place of Corvun. */
export function refuseStrayFiles(): void {
  const refuse = (event: DragEvent) => {
    if (!event.dataTransfer?.types.includes('Files') || taken(event)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'none';
  };
  window.addEventListener('dragover', refuse);
  window.addEventListener('drop', refuse);
}
