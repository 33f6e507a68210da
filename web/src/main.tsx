import { QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { askAnew, queryClient } from "./api/queries";
import { tellLeft } from "./happened/tell";
import { router } from "./places";
import { setAtTorch } from "./shell/face";
import "./styles.css";

// Styles that a library puts into the page carry the nonce of the page's content policy.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="nonce"]')?.content ?? "");
setAtTorch(false);
// What was pressed at the torch and never reached the server goes first.
const sendLeft = () =>
  void tellLeft().then((sent) => (sent ? askAnew(queryClient) : undefined), console.error);
sendLeft();
addEventListener("online", sendLeft);
// Where a page may have no worker (it is not served over a secure connection), what is pressed is kept all the same.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  void navigator.serviceWorker.register("/worker.js").catch(console.error);
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
