/** A photograph made small enough to send: a camera's own is ten times as large as anyone looks at. */
const LONGEST_PX = 1600;
const QUALITY = 0.85;

/** An image as base64: made smaller where the browser can read it; what it cannot read goes as it is, and the server says what it is not. */
export async function imageOf(file: File): Promise<string> {
  return base64(await shrunk(file).catch(() => file));
}

async function shrunk(file: File): Promise<Blob> {
  const image = await createImageBitmap(file, { imageOrientation: "from-image" });
  const share = Math.min(1, LONGEST_PX / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(image.width * share);
  canvas.height = Math.round(image.height * share);
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return new Promise((resolve, reject) => {
    canvas.toBlob((made) => (made ? resolve(made) : reject(new Error("not drawn"))), "image/jpeg", QUALITY);
  });
}

async function base64(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const CHUNK = 0x8000;
  let told = "";
  for (let at = 0; at < bytes.length; at += CHUNK)
    told += String.fromCharCode(...bytes.subarray(at, at + CHUNK));
  return btoa(told);
}
