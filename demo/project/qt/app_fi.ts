<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="fi" sourcelanguage="en">
<context>
    <name></name>
    <message id="app_name">
        <source>Skerry Line</source>
        <extracomment>The name of the company; it stays as it is</extracomment>
        <translation type="unfinished"></translation>
    </message>
    <message id="website">
        <source>https://skerryline.example</source>
        <translation type="unfinished"></translation>
    </message>
    <message id="sailings_title">
        <source>Sailings</source>
        <extracomment>Title of the list of sailings</extracomment>
        <translation>Lähdöt</translation>
    </message>
    <message id="sailings_today">
        <source>Today&apos;s sailings</source>
        <extracomment>Heading above the sailings of the day</extracomment>
        <translation>Tämän päivän lähdöt</translation>
    </message>
    <message id="sailings_none">
        <source>No sailings today</source>
        <extracomment>Shown when no ferry leaves today</extracomment>
        <translation>Ei lähtöjä tänään</translation>
    </message>
    <message id="sailing_route">
        <source>%1 to %2</source>
        <extracomment>One sailing: island of departure and of arrival</extracomment>
        <translation>%1 – %2</translation>
    </message>
    <message id="sailing_departs">
        <source>Departs at %1</source>
        <extracomment>Time of departure of one sailing</extracomment>
        <translation>Lähtee klo %1</translation>
    </message>
    <message id="sailing_duration" numerus="yes">
        <source>%n minutes</source>
        <extracomment>How long a crossing takes</extracomment>
        <translation>
            <numerusform>%n minuutti</numerusform>
            <numerusform>%n minuuttia</numerusform>
        </translation>
    </message>
    <message id="sailing_space">
        <source>%1% of the deck is free</source>
        <extracomment>How much of the car deck is still free</extracomment>
        <translation>Kannesta on vapaana %1 %</translation>
    </message>
    <message id="booking_title">
        <source>Book a crossing</source>
        <extracomment>Title of the booking screen</extracomment>
        <translation>Varaa matka</translation>
    </message>
    <message id="booking_passengers">
        <source>Passengers</source>
        <extracomment>Label of the number of passengers</extracomment>
        <translation>Matkustajat</translation>
    </message>
    <message id="booking_bicycles">
        <source>Bicycles</source>
        <extracomment>Label of the number of bicycles</extracomment>
        <translation>Polkupyörät</translation>
    </message>
    <message id="booking_cars">
        <source>Cars</source>
        <extracomment>Label of the number of cars</extracomment>
        <translation>Autot</translation>
    </message>
    <message id="booking_count_passengers" numerus="yes">
        <source>%n passengers</source>
        <translation>
            <numerusform>%n matkustaja</numerusform>
            <numerusform>%n matkustajaa</numerusform>
        </translation>
    </message>
    <message id="booking_count_bicycles" numerus="yes">
        <source>%n bicycles</source>
        <translation>
            <numerusform>%n polkupyörä</numerusform>
            <numerusform>%n polkupyörää</numerusform>
        </translation>
    </message>
    <message id="booking_price">
        <source>Total: %1</source>
        <extracomment>Price of the whole booking</extracomment>
        <translation>Yhteensä: %1</translation>
    </message>
    <message id="booking_confirm">
        <source>Confirm booking</source>
        <extracomment>Button that books and pays</extracomment>
        <translation>Vahvista varaus</translation>
    </message>
    <message id="booking_done">
        <source>Your booking code is %1. Show it on board.</source>
        <extracomment>Shown after booking; the code is letters and digits</extracomment>
        <translation>Varaustunnuksesi on %1. Näytä se laivalla.</translation>
    </message>
    <message id="boarding_title">
        <source>Boarding pass</source>
        <extracomment>Title of the boarding pass</extracomment>
        <translation>Matkalippu</translation>
    </message>
    <message id="boarding_greeting">
        <source>Welcome aboard, %1!</source>
        <extracomment>Greets the passenger by first name</extracomment>
        <translation>Tervetuloa laivaan, %1!</translation>
    </message>
    <message id="boarding_deck">
        <source>Deck %1</source>
        <extracomment>Number of the deck</extracomment>
        <translation>Kansi %1</translation>
    </message>
    <message id="boarding_gate">
        <source>Go to pier &lt;b&gt;%1&lt;/b&gt;</source>
        <extracomment>The pier is a letter and a number</extracomment>
        <translation>Mene laiturille &lt;b&gt;%1&lt;/b&gt;</translation>
    </message>
    <message id="boarding_closes" numerus="yes">
        <source>Boarding closes in %n minutes</source>
        <extracomment>Time left to board</extracomment>
        <translation>
            <numerusform>Laivaannousu päättyy %n minuutin kuluttua</numerusform>
            <numerusform>Laivaannousu päättyy %n minuutin kuluttua</numerusform>
        </translation>
    </message>
    <message id="delay_title">
        <source>Weather delay</source>
        <extracomment>Title of the notice of a delay</extracomment>
        <translation>Sää viivästyttää</translation>
    </message>
    <message id="delay_reason">
        <source>Strong wind on the outer skerries</source>
        <translation>Kova tuuli ulkoluodoilla</translation>
    </message>
    <message id="delay_minutes" numerus="yes">
        <source>Your sailing is %n minutes late</source>
        <extracomment>How late the sailing is</extracomment>
        <translation>
            <numerusform>Lähtösi on %n minuutin myöhässä</numerusform>
            <numerusform>Lähtösi on %n minuuttia myöhässä</numerusform>
        </translation>
    </message>
    <message id="delay_call">
        <source>Questions? Call %1</source>
        <extracomment>Telephone number of the harbour office</extracomment>
        <translation>Kysyttävää? Soita %1</translation>
    </message>
    <message id="map_title">
        <source>Harbour map</source>
        <extracomment>Title of the harbour map</extracomment>
        <translation>Satamakartta</translation>
    </message>
    <message id="map_pier">
        <source>Pier %1</source>
        <extracomment>A pier on the map</extracomment>
        <translation>Laituri %1</translation>
    </message>
    <message id="settings_title">
        <source>Settings</source>
        <translation>Asetukset</translation>
    </message>
    <message id="settings_language">
        <source>Language</source>
        <extracomment>Label of the language menu</extracomment>
        <translation>Kieli</translation>
    </message>
    <message id="settings_follow">
        <source>Follow the device</source>
        <extracomment>Choice in the language menu: the language of the device</extracomment>
        <translation>Sama kuin laitteessa</translation>
    </message>
    <message id="action_back">
        <source>Back</source>
        <extracomment>Button that goes to the screen before</extracomment>
        <translation>Takaisin</translation>
    </message>
    <message id="action_next">
        <source>Next</source>
        <extracomment>Button that goes on to the next step</extracomment>
        <translation>Seuraava</translation>
    </message>
    <message id="action_cancel">
        <source>Cancel</source>
        <translation>Peruuta</translation>
    </message>
    <message id="action_retry">
        <source>Try again</source>
        <translation>Yritä uudelleen</translation>
    </message>
</context>
</TS>
