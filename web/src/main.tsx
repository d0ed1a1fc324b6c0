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
        {/* An address asked for is on the screen before the next key or click is answered: in a transition, two quick changes of
            what narrows a list both start from the address before the first, and the first is lost. */}
        <BrowserRouter useTransitions={false}>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  ),
);
