# The server with its drop folder: docker build -t rimefield . && docker run -p 4173:4173 -v "$PWD/drop:/drop" rimefield
FROM node:20-bookworm-slim AS build
WORKDIR /build
COPY . .
RUN npm ci --no-audit --no-fund && npm pack --silent && mv rimefield-*.tgz rimefield.tgz

FROM node:20-bookworm-slim
COPY --from=build /build/rimefield.tgz /tmp/
# Every library is inside the package: nothing else is fetched.
RUN npm install --global --offline /tmp/rimefield.tgz && rm /tmp/rimefield.tgz && mkdir /drop && chown node /drop
USER node
VOLUME /drop
EXPOSE 4173
# Others than the container itself come in, so the token that it prints is asked for (or RIMEFIELD_TOKEN).
ENV HOST=0.0.0.0 RIMEFIELD_FOLDER=/drop
CMD ["rimefield", "serve"]
