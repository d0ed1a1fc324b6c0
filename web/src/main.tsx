import "@fontsource-variable/hanken-grotesk";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { client } from "./api/queries";
import { ahead, App } from "./app";
import { GlobalStyle } from "./kit/theme";

void ahead(window.location.pathname, window.location.search).then(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <GlobalStyle />
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  ),
);
