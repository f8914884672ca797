# Vamper on a home server, from the wheel: run `make wheel` first, then
#   docker build -t vamper .
#   docker run --network host -v vamper:/data -e VAMPER_PASSPHRASE='…' vamper
# It shares the server's own network, because it answers only under the very address that a device came to.
FROM python:3.11-slim
COPY dist/vamper-*.whl /wheel/
RUN pip install --no-cache-dir /wheel/vamper-*.whl && rm -r /wheel && useradd --create-home vamper && install -d -o vamper /data
USER vamper
VOLUME /data
EXPOSE 8484
CMD ["vamper", "serve", "--lan", "--data", "/data/workshop.db"]
