import type { PDFDocumentProxy } from "pdfjs-dist";

/** Opens a PDF; what draws it is loaded when there is one. Its scripts never run. */
export async function openPdf(
  address: string,
): Promise<{ readonly document: PDFDocumentProxy; readonly close: () => void }> {
  const [{ getDocument, GlobalWorkerOptions }, worker] = await Promise.all([
    import("pdfjs-dist"),
    import("pdfjs-dist/build/pdf.worker.min.mjs?url"),
  ]);
  GlobalWorkerOptions.workerSrc = worker.default;
  const task = getDocument({ url: address, isEvalSupported: false, enableXfa: false });
  return { document: await task.promise, close: () => void task.destroy() };
}

/** Draws a page of a PDF into a canvas. @param width in the screen's own points */
export async function drawPage(
  document: PDFDocumentProxy,
  number: number,
  canvas: HTMLCanvasElement,
  width: number,
): Promise<void> {
  const page = await document.getPage(number);
  const points = width * Math.min(2, devicePixelRatio);
  const viewport = page.getViewport({ scale: points / page.getViewport({ scale: 1 }).width });
  canvas.width = viewport.width;
  canvas.height = viewport.height;
  const context = canvas.getContext("2d");
  if (context) await page.render({ canvasContext: context, viewport }).promise;
}
